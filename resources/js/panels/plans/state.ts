import { create } from 'zustand';
import { change } from '@/api/change';
import { call, type ExitPlan, list } from '@/api/client';
import { useChoices } from '@/model/choices';
import { FRESH, type PlanDocument, type Scope } from './document';

/** What the plan is looked at with: invented as far as it goes, real contract. */
export interface Sample {
    contract: string;
    side: 'buy' | 'sell';
    quantity: number;
    /** empty takes the last trade */
    price: string;
}

interface Editor {
    /** null is a plan that has not been saved yet */
    id: number | null;
    version: number;
    plan: PlanDocument;
    /** as it was last saved */
    saved: string;
    scope: Scope;
    sample: Sample;
    fault: string;
}

export const useEditor = create<Editor>(() => ({
    id: null,
    version: 0,
    plan: FRESH,
    saved: '',
    scope: 'plan',
    sample: { contract: '', side: 'buy', quantity: 2, price: '' },
    fault: '',
}));

export const isChanged = (editor: Editor): boolean => JSON.stringify(editor.plan) !== editor.saved;

export function edit(plan: PlanDocument): void {
    useEditor.setState({ plan, fault: '' });
}

export function open(stored: ExitPlan): void {
    const plan = stored.document as unknown as PlanDocument;
    useEditor.setState({ id: stored.id, version: stored.version, plan, saved: JSON.stringify(plan), scope: 'plan', fault: '' });
}

export const PLANS = 'exit-plans';

/** Tries what the server may refuse; says what it had against it. */
async function attempt(what: () => Promise<void>): Promise<string> {
    const fault = await change(PLANS, what);
    useEditor.setState({ fault });
    return fault;
}

/** The plans as they are now: another page or program may have changed them. */
export async function reload(): Promise<void> {
    const plans = await list<ExitPlan>('exit-plans');
    const { plan } = useChoices.getState();
    useChoices.setState({ plans, plan: plan === null || plans.some((candidate) => candidate.id === plan) ? plan : (plans[0]?.id ?? null) });
}

export const save = () =>
    attempt(async () => {
        const { id, version, plan } = useEditor.getState();
        const stored =
            id === null
                ? await call<ExitPlan>('POST', 'exit-plans', plan)
                : await call<ExitPlan>('PUT', `exit-plans/${id}`, { ...plan, version });
        await reload();
        open(stored);
    });

/** A document that is not saved yet: a new one, a copy, or what was imported. */
export function begin(plan: PlanDocument): void {
    useEditor.setState({ id: null, version: 0, plan, saved: '', scope: 'plan', fault: '' });
}

/** The name with a number that no other plan has. */
export function freeName(name: string): string {
    const taken = new Set(useChoices.getState().plans.map((plan) => plan.document.name));
    let free = name;
    for (let n = 2; taken.has(free); n++) free = `${name} ${n}`;
    return free;
}

export const remove = (id: number) =>
    attempt(async () => {
        await call('DELETE', `exit-plans/${id}`);
        await reload();
        const first = useChoices.getState().plans[0];
        if (useEditor.getState().id === id && first) open(first);
    });

/** One place up or down in the list, which the desk's picker follows. */
export const shift = (id: number, by: number) =>
    attempt(async () => {
        const ids = useChoices.getState().plans.map((plan) => plan.id);
        const at = ids.indexOf(id);
        const to = at + by;
        if (to < 0 || to >= ids.length) return;
        ids.splice(at, 1);
        ids.splice(to, 0, id);
        await call('POST', 'exit-plans/order', { ids });
        await reload();
    });

/** Read by PHP as it will be when it is saved, and begun as a plan of its own. */
export const take = (document: unknown) =>
    attempt(async () => {
        const stored = await call<ExitPlan>('POST', 'exit-plans', document);
        await reload();
        open(stored);
    });
