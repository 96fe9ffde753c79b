import { create } from 'zustand';
import type { components } from './generated';
import { refusalWords } from './refusalWords';
import { WORDS } from './words';

type Schemas = components['schemas'];
export type Limits = Schemas['Limits'];
export type Size = Schemas['Size'];
export type OpenRisk = Schemas['OpenRisk'];
export type LimitsDocument = Schemas['LimitsDocument'];
export type ContractLimits = Schemas['ContractLimits'];
export type Account = Schemas['Account'];
export type Contract = Schemas['Contract'];
export type Order = Schemas['Order'];
export type Position = Schemas['Position'];
export type Fill = Schemas['Fill'];
export type OutsideFill = Schemas['OutsideFill'];
export type Risk = Schemas['Risk'];
export type Preview = Schemas['Preview'];
export type ExitPlan = Schemas['ExitPlan'];
export type FlattenAnswer = Schemas['FlattenAnswer'];
export type CancelAnswer = Schemas['CancelAnswer'];
export type ChangePreview = Schemas['ChangePreview'];
export type StepsPreview = Schemas['StepsPreview'];
export type StepsAnswer = Schemas['StepsAnswer'];
export type RecallAnswer = Schemas['RecallAnswer'];
export type Curve = Schemas['Curve'];
export type Ticket = Schemas['Ticket'];
export type Orders = Schemas['Orders'];
export type PlanStudy = Schemas['PlanStudy'];
export type Rehearsal = Schemas['Rehearsal'];
export type DepthColumn = Schemas['DepthColumn'];
export type DepthHistory = Schemas['DepthHistory'];
export type Bars = Schemas['Bars'];
export type Level = Schemas['Level'];
export type PlanChange = Schemas['PlanChange'];
export type Calendar = Schemas['Calendar'];
export type AccountDay = Schemas['AccountDay'];
export type Noise = Schemas['Noise'];
export type NoiseSide = Schemas['NoiseSide'];

/** A refusal by the server, in its own words (RFC 9457). */
export class Problem extends Error {
    constructor(
        readonly code: string,
        detail: string,
        readonly status: number,
        readonly facts: Record<string, unknown>,
    ) {
        super(refusalWords(detail));
    }
}

/** Whether the server takes this page for signed in; the page stays as it is, with its drafts, until it does again. */
export const useSession = create<{ isLost: boolean }>(() => ({ isLost: false }));

/** How often the token has been renewed: what was sent before says nothing of the session after it. */
let renewals = 0;

/** Takes the token of the session that the browser has now. False where that is still none. */
export async function renewSession(): Promise<boolean> {
    const answer = await fetch('/', { headers: { Accept: 'text/html' } }).catch(() => null);
    if (!answer?.ok || answer.redirected) return false;
    const page = new DOMParser().parseFromString(await answer.text(), 'text/html');
    const fresh = page.querySelector<HTMLMetaElement>('meta[name="csrf-token"]')?.content;
    if (!fresh) return false;
    for (const meta of document.querySelectorAll<HTMLMetaElement>('meta[name="csrf-token"]')) meta.content = fresh;
    renewals++;
    useSession.setState({ isLost: false });
    return true;
}

const token = () => document.querySelector<HTMLMetaElement>('meta[name="csrf-token"]')?.content ?? '';

export async function call<T>(
    method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE',
    path: string,
    body?: unknown,
    signal?: AbortSignal,
): Promise<T> {
    let response: Response;
    const sentIn = renewals;
    try {
        response = await fetch(`/api/${path}`, {
            method,
            signal,
            headers: { Accept: 'application/json', 'Content-Type': 'application/json', 'X-CSRF-TOKEN': token(), 'Quiet-Problems': '1' },
            body: body === undefined ? undefined : JSON.stringify(body),
        });
    } catch (error) {
        if (signal?.aborted) throw error;
        throw new Problem('offline', WORDS.unreachable, 0, {});
    }
    let answer: Record<string, unknown> = {};
    try {
        answer = await response.json();
    } catch (error) {
        // A call that was given up while its answer came in has no answer; neither has one that broke off.
        if (signal?.aborted) throw error;
        if (response.ok) throw new Problem('broken-answer', WORDS.answerBrokeOff, response.status, {});
    }
    // A refusal comes with 200, so that the browser does not take it for a fault of the page.
    const status = Number(response.headers.get('Problem-Status') ?? response.status);
    if (response.ok && status < 400) return answer as T;
    if (status === 401 || status === 419) {
        if (sentIn === renewals) useSession.setState({ isLost: true });
        throw new Problem('signed-out', WORDS.signedOut, status, {});
    }
    throw new Problem(String(answer.code ?? 'fault'), String(answer.detail ?? WORDS.answered(status)), status, answer);
}

export async function list<T>(path: string, signal?: AbortSignal): Promise<T[]> {
    return (await call<{ items: T[] }>('GET', path, undefined, signal)).items;
}

/** A long list, page by page, until its end or until so many rows are there; `next` says where `field` goes on. */
export async function listPages<T>(path: string, field: 'cursor' | 'after', most: number): Promise<T[]> {
    const rows: T[] = [];
    let next: string | null = null;
    do {
        const page: { items: T[]; next: string | null } = await call('GET', next === null ? path : `${path}&${field}=${next}`);
        rows.push(...page.items);
        next = page.next;
    } while (next !== null && rows.length < most);
    return rows;
}
