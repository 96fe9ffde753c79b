import * as z from 'zod/mini';
import type { Contract } from '@/api/client';
import { useChoices } from '@/model/choices';
import { useLadders } from '@/model/ladders';
import { createKept } from '@/ui/kept';
import { Select } from '@/ui/Select';
import { WORDS } from './words';

/** What each panel shows. */
const useKeptPins = createKept<{ of: Record<string, string> }>('pinned', { of: z.record(z.string(), z.string()) }, { of: {} });

const LADDER = 'ladder ';

/**
 * The contract of a panel: that of the ladder in front, of one certain ladder, or one that it is pinned to; kept from
 * one visit to the next. Where the ladder or the contract is gone it follows the one in front.
 */
export function usePinned(panel: string) {
    const kept = useKeptPins((state) => state.of[panel] ?? '');
    const front = useChoices((choices) => choices.code);
    const contracts = useChoices((choices) => choices.contracts);
    const { list, front: frontId } = useLadders();
    const ladders = list.map((ladder) => ({ id: ladder.id, code: ladder.id === frontId ? front : ladder.code }));
    const followed = ladders.find((ladder) => `${LADDER}${ladder.id}` === kept);
    const pinned = contracts.find((listed) => listed.code === kept);
    const code = followed?.code ?? pinned?.code ?? front;
    return {
        contract: contracts.find((listed) => listed.code === code),
        value: followed || pinned ? kept : '',
        ladders,
        contracts,
        front,
        pin: (to: string) => useKeptPins.setState(({ of }) => ({ of: { ...of, [panel]: to } })),
        /** the certain ladder that it follows where that is not in front: a press in the panel is one in that ladder */
        own: (followed && followed.id !== frontId && list.find((ladder) => ladder.id === followed.id)) || null,
    };
}

interface Props {
    value: string;
    ladders: { id: number; code: string }[];
    contracts: Contract[];
    front: string;
    pin: (to: string) => void;
}

/** Says in words what a panel shows, and changes it. */
export function Pinned({ value, ladders, contracts, front, pin }: Props) {
    return (
        <Select
            look="plain"
            aria-label="What this panel shows"
            data-field="pinned"
            value={value}
            onChange={(event) => pin(event.target.value)}
        >
            <option value="">
                follows the ladder{ladders.length > 1 && ' in front'}: {front}
            </option>
            {ladders.length > 1 &&
                ladders.map(({ id, code }) => (
                    <option key={id} value={`${LADDER}${id}`}>
                        {WORDS.followsLadder(id, code)}
                    </option>
                ))}
            {contracts.map((contract) => (
                <option key={contract.code} value={contract.code}>
                    {WORDS.pinnedTo(contract.code)}
                </option>
            ))}
        </Select>
    );
}
