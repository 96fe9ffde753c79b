import { useState } from 'react';
import type { Contract } from '@/api/client';
import { chosenContract, useChoices } from '@/desk/choices';

/** The contract of a panel: that of the ladder in front, or one that it is pinned to; kept from one visit to the next. */
export function usePinned(panel: string) {
    const key = `lotrik.pinned.${panel}`;
    const [code, setCode] = useState(() => localStorage.getItem(key) ?? '');
    const front = useChoices(chosenContract);
    const contracts = useChoices((choices) => choices.contracts);
    const pinned = contracts.find((listed) => listed.code === code);
    const pin = (to: string) => {
        localStorage.setItem(key, to);
        setCode(to);
    };
    return { contract: pinned ?? front, code: pinned?.code ?? '', contracts, pin };
}

interface Props {
    code: string;
    contracts: Contract[];
    pin: (code: string) => void;
}

/** Says in words what a panel shows, and changes it. */
export function Pinned({ code, contracts, pin }: Props) {
    const front = useChoices((choices) => choices.code);
    return (
        <select aria-label="What this panel shows" data-field="pinned" value={code} onChange={(event) => pin(event.target.value)}>
            <option value="">follows the ladder: {front}</option>
            {contracts.map((contract) => (
                <option key={contract.code} value={contract.code}>
                    pinned to {contract.code}
                </option>
            ))}
        </select>
    );
}
