import { create } from 'zustand';
import type { Account, Contract, ExitPlan } from '@/api/client';
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

/** What the trader has chosen. Choosing a plan never changes the lots; choosing lots never changes the plan. */
export const useChoices = create<Choices>(() => ({
    account: null,
    contracts: [],
    plans: [],
    code: '',
    lots: 2,
    plan: null,
    tag: '',
    closer: 1,
}));

export const chosenContract = (choices: Choices): Contract | undefined =>
    choices.contracts.find((contract) => contract.code === choices.code);

/** Lots that were typed: a whole number within the order limit; anything else leaves them as they were. */
export function typeLots(text: string, limit: number): void {
    const lots = Number(text);
    if (Number.isInteger(lots) && lots >= 1 && lots <= limit) useChoices.setState({ lots });
}

/** The next plan in the list, round and round. */
export function nextPlan(): void {
    const { plans, plan } = useChoices.getState();
    const at = plans.findIndex((candidate) => candidate.id === plan);
    useChoices.setState({ plan: plans[(at + 1) % plans.length]?.id ?? null });
}

/** Puts a contract on the ladder, with the lots and the plan that the trader has set for it. */
export function chooseContract(code: string): void {
    const { plans } = useChoices.getState();
    const own = useSettings.getState().entry.contracts[code];
    const plan = own?.plan === 0 ? null : plans.find((candidate) => candidate.id === own?.plan)?.id;
    useChoices.setState({ code, ...(own?.lots !== undefined && { lots: own.lots }), ...(plan !== undefined && { plan }) });
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
