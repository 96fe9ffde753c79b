import { create } from 'zustand';
import type { Account, Contract, ExitPlan } from '@/api/client';

export const LOTS = [1, 2, 3, 5, 10] as const;

interface Choices {
    account: Account | null;
    contracts: Contract[];
    plans: ExitPlan[];
    code: string;
    lots: number;
    /** null is no exit plan */
    plan: number | null;
}

/** What the trader has chosen. Choosing a plan never changes the lots; choosing lots never changes the plan. */
export const useChoices = create<Choices>(() => ({ account: null, contracts: [], plans: [], code: '', lots: 2, plan: null }));

export const chosenContract = (choices: Choices): Contract | undefined => choices.contracts.find((contract) => contract.code === choices.code);

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

/** The contract so many tabs further, round and round. */
export function turnContract(by: number): void {
    const { contracts, code } = useChoices.getState();
    const at = contracts.findIndex((contract) => contract.code === code);
    useChoices.setState({ code: contracts[(at + by + contracts.length) % contracts.length]?.code ?? code });
}
