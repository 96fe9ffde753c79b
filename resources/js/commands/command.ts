import * as z from 'zod/mini';
import { create } from 'zustand';
import { call, type Order, Problem, type RecallAnswer } from '@/api/client';
import { say } from '@/stream/store';
import { createKept } from '@/ui/kept';
import { isGivenUp, type Standing, useBeingSent } from './beingSent';
import { WORDS } from './words';

/**
 * A command as it was when the button or key went down. It keeps its id until it is known what became of it: however
 * often it is sent, it is done once.
 */
export interface Command {
    readonly id: string;
    readonly account: number;
    readonly method: 'POST' | 'PATCH' | 'DELETE';
    readonly path: string;
    readonly body: object;
    /** what it is, as a trader would call it */
    readonly words: string;
    /** it can add to a position: sent late it would be another order than the one that was meant */
    readonly opens: boolean;
    /** where it is drawn while it is under way */
    readonly at?: Standing;
}

/** What comes later than this after the press are not the prices that the hand meant, ms. */
export const PRICES_MS = 1500;

export const freeze = (command: Omit<Command, 'id'>, id: string = crypto.randomUUID()): Command =>
    Object.freeze({ ...command, body: Object.freeze({ ...command.body }), id });

/** How long an answer may take, ms, and after how long the trader hears that there is none yet. */
const ANSWER_MS = 3000;
const SLOW_MS = 700;
/** How long after the press a command is sent again by itself; what closes or protects for longer, since late is better than never. */
const AGAIN_MS = { opens: 1500, closes: 5000 };
const PAUSES_MS = [150, 300, 600, 1000, 2000];

/** What a command is asked for by, and called. */
type Sent = Pick<Command, 'id' | 'account' | 'words'>;

/** Commands of which it is not known whether they arrived. */
export const useUnheard = create<{ list: readonly Sent[] }>(() => ({ list: [] }));

/** All that are under way: a page that is loaded anew asks what became of them. */
const useUnderWay = createKept(
    'under-way',
    { list: z.array(z.object({ id: z.string(), account: z.int(), words: z.string(), isGivenUp: z.optional(z.boolean()) })) },
    { list: [] as (Sent & { isGivenUp?: boolean })[] },
    'tab',
);

// What the trader gave up is given up over a reload too.
useBeingSent.subscribe(() =>
    useUnderWay.setState((state) =>
        state.list.some((one) => !one.isGivenUp && isGivenUp(one.id))
            ? { list: state.list.map((one) => (isGivenUp(one.id) ? { ...one, isGivenUp: true } : one)) }
            : state,
    ),
);

const begins = ({ id, account, words }: Command): void => useUnderWay.setState(({ list }) => ({ list: [...list, { id, account, words }] }));

const checks = (command: Sent): void =>
    useUnheard.setState(({ list }) => (list.includes(command) ? { list } : { list: [...list, command] }));

const isOver = (command: Sent): void => {
    useUnheard.setState(({ list }) => ({ list: list.filter((other) => other !== command) }));
    useUnderWay.setState(({ list }) => ({ list: list.filter((other) => other.id !== command.id) }));
};

const pause = (tries: number): Promise<void> =>
    new Promise((resume) => window.setTimeout(resume, PAUSES_MS[Math.min(tries, PAUSES_MS.length - 1)]));

const UNHEARD = ['offline', 'broken-answer', 'outcome-unknown', 'timeout'];

/** Whether the answer was lost, so that it may have been done or not. */
const isUnheard = (error: unknown): error is Problem =>
    error instanceof Problem && (UNHEARD.includes(error.code) || error.status === 502 || error.status === 504);

/** Whether the server has said something of this very command: not that it was busy, or did not know who asked. */
const isAnswer = (error: Problem): boolean => error.status >= 400 && error.status < 500 && ![401, 419, 429].includes(error.status);

async function ask<T>(method: Command['method'], path: string, body: object): Promise<T> {
    try {
        return await call<T>(method, path, body, AbortSignal.timeout(ANSWER_MS));
    } catch (error) {
        if (error instanceof DOMException && error.name === 'TimeoutError') throw new Problem('timeout', 'No answer came.', 0, {});
        throw error;
    }
}

/**
 * Sends a command and stays with it until it is known what became of it. Where the answer is lost the same command goes
 * out again, with the same id; once that would be too late it is asked for, and given up where it has not arrived.
 */
export async function deliver<T>(command: Command): Promise<T> {
    const pressed = performance.now();
    const again = AGAIN_MS[command.opens ? 'opens' : 'closes'];
    let isLost = false;
    begins(command);
    const slow = window.setTimeout(() => checks(command), SLOW_MS);
    try {
        for (let tries = 0; ; tries++) {
            try {
                return await ask<T>(command.method, command.path, { client_id: command.id, ...command.body });
            } catch (error) {
                if (!(error instanceof Problem)) throw error;
                isLost ||= isUnheard(error);
                // While the engine comes back nothing is done: what closes waits for it.
                const isAway = error.code === 'engine-away' && !command.opens;
                // Once an answer was lost, being signed out or held back meanwhile says nothing of what had been done.
                // That a command was not sent says the command alone: a question that finds the session gone knows nothing of it.
                if (!isLost && error.code === 'signed-out') throw new Problem(error.code, WORDS.signedOut, error.status, error.facts);
                if (isLost ? isAnswer(error) : !isAway) throw error;
                if (performance.now() - pressed >= again) {
                    if (!isLost) throw error;
                    break;
                }
                // Nobody wants it any more: whether it has arrived is still to be known.
                if (isLost && isGivenUp(command.id)) break;
            }
            checks(command);
            await pause(tries);
        }
        return await recall<T>(command);
    } finally {
        window.clearTimeout(slow);
        isOver(command);
    }
}

async function recall<T>(command: Sent): Promise<T> {
    checks(command);
    for (let tries = 0; ; tries++) {
        try {
            const { account, id } = command;
            const { arrived, answer } = await ask<RecallAnswer>('POST', `accounts/${account}/recall`, { client_id: id, account });
            if (!arrived) break;
            say(WORDS.hadArrived(command.words), 'done');
            return answer as T;
        } catch (error) {
            if (!(error instanceof Problem) || isAnswer(error)) throw error;
        }
        await pause(tries);
    }
    throw new Problem('not-arrived', WORDS.didNotArrive(command.words), 0, {});
}

/**
 * Of the commands that were under way as the page was left: those that had been done, by their ids. Each is told of; one that
 * nothing is known of, since another user is signed in now, is not.
 *
 * @param takeBack what to do with an order that had been given up, and had arrived
 */
export async function recallKept(takeBack: (order: Order) => void): Promise<ReadonlySet<string>> {
    const arrived = new Set<string>();
    await Promise.all(
        useUnderWay.getState().list.map(async (command) => {
            try {
                const answer = await recall<Order>(command);
                arrived.add(command.id);
                if (command.isGivenUp) takeBack(answer);
            } catch (error) {
                if (!(error instanceof Problem)) throw error;
                // It had arrived and been refused, or it never will: nothing of it was done.
                if (error.code !== 'unknown-account') say(error.message);
            } finally {
                isOver(command);
            }
        }),
    );
    return arrived;
}
