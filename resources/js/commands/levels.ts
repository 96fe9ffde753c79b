import * as z from 'zod/mini';
import { create } from 'zustand';
import { type Contract, call, type Level, list, Problem } from '@/api/client';
import { groundOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { price, writePrice } from '@/model/prices';
import { useThisOrder } from '@/model/thisOrder';
import { deskNow, say } from '@/stream/store';
import { createKept } from '@/ui/kept';
import { inSight } from '@/ui/windows';
import { setExit } from './actions';
import { PRICES_MS } from './command';
import { WORDS } from './words';

/** How often what happens at the levels is asked for, in ms. */
const LOOK_MS = 1000;

interface Near {
    /** a word is said when the market comes within so many ticks: the engine's, for every page of the trader */
    within: number;
    /** exits set from a level stand so many ticks away from it */
    off: number;
}

/** The trader's marked levels, in every contract. */
export const useLevels = create<{ list: Level[] }>(() => ({ list: [] }));

export const useNear = createKept<Near>('levels', { off: z.int().check(z.nonnegative()) }, { within: 3, off: 1 });

export const setOff = (off: number): void => useNear.setState({ off });

/** Told to the engine, or asked of it where nothing is said. */
export async function setWithin(within?: number): Promise<void> {
    try {
        useNear.setState(await call<{ within: number }>('POST', 'levels/watch', within === undefined ? {} : { within }));
    } catch (error) {
        if (within !== undefined) say((error as Error).message);
    }
}

/** As the desk writes a level: a price, or a band, with its name. */
export function levelWords(level: Level): string {
    const contract = useChoices.getState().contracts.find((listed) => listed.code === level.contract);
    if (!contract) return level.name;
    const prices = level.low_level === level.high_level ? '' : `–${writePrice(contract, level.high_level)}`;
    return `${level.name ? `${level.name} ` : ''}${writePrice(contract, level.low_level)}${prices}`;
}

/** The engine tells what happens there by itself; here is what is drawn and listed. */
async function look(signal?: AbortSignal): Promise<void> {
    useLevels.setState({ list: await list<Level>(`levels?off=${useNear.getState().off}`, signal) });
}

/** Looks at once, and then on while there are levels to look at and somebody to see them. Gives back how to stop. */
export function watchLevels(): () => void {
    void setWithin();
    look().catch(() => undefined);
    const timer = window.setInterval(() => {
        if (useLevels.getState().list.length > 0 && inSight() !== null && deskNow().feed === 'live') look().catch(() => undefined);
    }, LOOK_MS);
    return () => window.clearInterval(timer);
}

async function kept(change: Promise<unknown>): Promise<void> {
    try {
        await change;
        await look();
    } catch (error) {
        say((error as Error).message);
    }
}

export function markLevel(contract: Contract, one: number, other: number): void {
    const [low, high] = [Math.min(one, other), Math.max(one, other)];
    void kept(call('POST', 'levels', { contract: contract.code, low: price(contract, low), high: price(contract, high) }));
}

export const changeLevel = (id: number, change: Partial<Pick<Level, 'name' | 'tone'>>): void =>
    void kept(call('PATCH', `levels/${id}`, change));

export const dropLevel = (id: number): void => void kept(call('DELETE', `levels/${id}`));

/** A stop behind a level, or a target before it: for the open position, else for the next order. */
export async function exitAtLevel({ id, contract: code }: Level, role: 'stop' | 'target'): Promise<void> {
    const contract = useChoices.getState().contracts.find((listed) => listed.code === code);
    if (!contract || code !== useChoices.getState().code) return say(WORDS.putOnLadderFirst(code));
    const at = groundOf(code);
    try {
        await look(AbortSignal.timeout(PRICES_MS));
    } catch (error) {
        return say(error instanceof Problem ? error.message : WORDS.levelTooLate(role));
    }
    const exits = useLevels.getState().list.find((level) => level.id === id)?.figures?.exits;
    if (!exits) return say('This level has gone.');
    const quantity = deskNow().positions[code]?.quantity ?? 0;
    if (quantity !== 0) return setExit(at, role, price(contract, quantity > 0 ? exits.long : exits.short));
    const next = role === 'stop' ? exits.next_stop : exits.next_target;
    if (!next) return say(WORDS.noMarket(code));
    useThisOrder.setState(role === 'stop' ? { stop: next.ticks } : ({ targets }) => ({ targets: { ...targets, 1: next.ticks } }));
    say(WORDS.nextOrderOnly(role, next.ticks, writePrice(contract, next.level), next.side), 'done');
}
