import { useEffect, useState } from 'react';
import * as z from 'zod/mini';
import type { Contract } from '@/api/client';
import { chooseContract, useChoices } from '@/model/choices';
import { Button } from '@/ui/Button';
import { createKept } from '@/ui/kept';
import { TextField } from '@/ui/TextField';
import { LABEL } from './looks';
import { WORDS } from './words';

const MAX_RECENT = 4;
/** Contracts that were put on the ladder last, the newest first. */
const useRecent = createKept<{ codes: string[] }>('recent-contracts', { codes: z.array(z.string()) }, { codes: [] });

/** Typing a code, a name or an alias finds the contract; those used last come first. */
export function ContractField({ contract }: { contract: Contract }) {
    const contracts = useChoices((choices) => choices.contracts);
    const [typed, setTyped] = useState('');
    const recent = useRecent((state) => state.codes);
    useEffect(() => {
        const others = useRecent.getState().codes.filter((code) => code !== contract.code);
        useRecent.setState({ codes: [contract.code, ...others].slice(0, MAX_RECENT) });
    }, [contract.code]);
    const sought = typed.trim().toLowerCase();
    const found =
        sought === ''
            ? contracts.filter((candidate) => recent.includes(candidate.code) && candidate.code !== contract.code)
            : contracts.filter((candidate) =>
                  [candidate.code, candidate.name ?? '', ...(candidate.aliases ?? [])].some((text) => text.toLowerCase().includes(sought)),
              );
    const pick = (code: string) => {
        setTyped('');
        chooseContract(code);
    };
    return (
        <div>
            <label className={LABEL}>
                Contract
                <TextField
                    value={typed}
                    placeholder={`${contract.code} · ${contract.name}`}
                    onChange={(event) => setTyped(event.target.value)}
                    onKeyDown={(event) => {
                        if (event.key !== 'Enter') return;
                        event.preventDefault();
                        if (found[0] && sought !== '') pick(found[0].code);
                    }}
                    data-name="contract"
                />
            </label>
            <div className="flex flex-wrap items-center gap-4">
                {found.slice(0, MAX_RECENT).map((candidate) => (
                    <Button tone="choice" key={candidate.code} title={candidate.name ?? ''} onClick={() => pick(candidate.code)}>
                        {candidate.code}
                    </Button>
                ))}
                {sought !== '' && found.length === 0 && <small>{WORDS.noSuchContract}</small>}
            </div>
        </div>
    );
}
