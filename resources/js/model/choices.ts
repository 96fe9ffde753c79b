import * as z from 'zod/mini';
import { create } from 'zustand';
import type { Account, Contract, ExitPlan } from '@/api/client';
import { createKept } from '@/ui/kept';
import { useSettings } from './settings';

interface Choices {
    account: Account | null;
    contracts: Contract[];
    plans: ExitPlan[];
    code: string;
    lots: number;
    /** null is no exit plan */
    plan: number | null;
    /** the setup's name, which goes with the next orders; empty for none */
    tag: string;
    /** ticks by which stops come closer at one press */
    closer: number;
}

/** Lots of a contract for which none have been chosen yet. */
const FIRST_LOTS = 2;

/** What the trader has chosen. Choosing a plan never changes the lots; choosing lots never changes the plan. */
export const useChoices = create<Choices>(() => ({
    account: null,
    contracts: [],
    plans: [],
    code: '',
    lots: FIRST_LOTS,
    plan: null,
    tag: '',
    closer: 1,
}));

export const chosenContract = (choices: Choices): Contract | undefined =>
    choices.contracts.find((contract) => contract.code === choices.code);

/** The next plan in the list, round and round. */
export function nextPlan(): void {
    const { plans, plan } = useChoices.getState();
    const at = plans.findIndex((candidate) => candidate.id === plan);
    useChoices.setState({ plan: plans[(at + 1) % plans.length]?.id ?? null });
}

interface Chosen {
    lots: number;
    plan: number | null;
}

/** Lots and plan belong to the contract: what was chosen last for each. */
const useChosenFor = createKept<{ of: Record<string, Chosen> }>(
    'chosen',
    { of: z.record(z.string(), z.object({ lots: z.int().check(z.positive()), plan: z.catch(z.nullable(z.int()), null) })) },
    { of: {} },
);

useChoices.subscribe(({ code, lots, plan }, before) => {
    // None is not chosen: it is what risk allows at the moment.
    if (code === '' || lots === 0 || (code === before.code && lots === before.lots && plan === before.plan)) return;
    useChosenFor.setState(({ of }) => ({ of: { ...of, [code]: { lots, plan } } }));
});

/** The lots and the plan of a contract: those in front, else what was chosen for it last, set for it, or is there to begin with. */
export function chosenFor(code: string, { code: front, lots, plan, plans }: Choices = useChoices.getState()): Chosen {
    if (code === front) return { lots, plan };
    const own = useSettings.getState().entry.contracts[code];
    const last = useChosenFor.getState().of[code];
    const isThere = (id: number | null | undefined) => id === null || plans.some((candidate) => candidate.id === id);
    const set = own?.plan === 0 ? null : own?.plan;
    return {
        lots: last?.lots ?? own?.lots ?? FIRST_LOTS,
        plan: last && isThere(last.plan) ? last.plan : set !== undefined && isThere(set) ? set : (plans[0]?.id ?? null),
    };
}

/** Puts a contract on the ladder, with its own lots and plan. */
export function chooseContract(code: string): void {
    useChoices.setState({ code, ...chosenFor(code) });
}

/** The next lots of the row, round and round. */
export function nextLots(): void {
    const { lots, code } = useChoices.getState();
    const row = useSettings.getState().entry.contracts[code]?.lots_row ?? useSettings.getState().entry.lots_row;
    useChoices.setState({ lots: row[(row.indexOf(lots) + 1) % row.length] ?? lots });
}

/** The contract so many tabs further, round and round. */
export function turnContract(by: number): void {
    const { contracts, code } = useChoices.getState();
    const at = contracts.findIndex((contract) => contract.code === code);
    chooseContract(contracts[(at + by + contracts.length) % contracts.length]?.code ?? code);
}
