import type { Fill, Order, Position, Risk } from '@/api/client';
import type { Step } from './columns';

/** One side's levels: tick → lots, orders. */
export type Levels = Map<number, readonly [lots: number, orders: number]>;

export interface Book {
    bids: Levels;
    asks: Levels;
    bestBid: number | null;
    bestAsk: number | null;
    last: { price: number; size: number; aggressor: 'buy' | 'sell' } | null;
}

export interface Notice {
    sequence: number;
    time: string;
    contract: string | null;
    type: string;
    words: string;
    /** whether it is told at once, and not only written down */
    speaks: boolean;
}

/** What a contract has traded today; levels in ticks, null before the first trade. */
export interface Day {
    settlement: number | null;
    open: number | null;
    high: number | null;
    low: number | null;
    lots: number;
    /** what a change is counted from */
    reference: number | null;
    average: { level: number; words: string } | null;
    limits: [low: number, high: number] | null;
    /** tick → lots bought, lots sold */
    traded: Map<number, readonly [bought: number, sold: number]>;
    /** the most lots at one price */
    most: number;
}

/** What the engine says of the depth as it is. */
export interface DepthNow {
    /** when the newest column of the history ended, ms since 1970 UTC */
    at: number;
    /** how often columns of each length were missing: then they are asked for */
    gaps: Partial<Record<Step, number>>;
    /** within so many ticks of the best price: lots, and (bids − asks) in percent of both */
    sums: [within: number, bids: number, asks: number, imbalance: number][];
    /** tick → lots more or less than a second ago, where that is much */
    changed: Map<number, number>;
    /** tick → lots bought, lots sold in the last ten seconds */
    just: Map<number, readonly [bought: number, sold: number]>;
    /** from how many lots on a price stands out */
    unusual: number;
    /** 99 of 100 prices hold fewer lots */
    full: number;
}

/** `foreign` is what this page does not understand. */
export type FeedState = 'opening' | 'live' | 'stale' | 'away' | 'foreign';

/** Whether what is shown may be old: nothing is sent then but what closes. */
export const isBroken = (feed: FeedState): feed is 'stale' | 'away' | 'foreign' =>
    feed === 'stale' || feed === 'away' || feed === 'foreign';

export interface DeskData {
    feed: FeedState;
    /** false from the moment the tab was hidden until it has heard from the engine again */
    fresh: boolean;
    /** the last journal sequence drawn */
    sequence: number;
    epoch: string;
    /** how often a whole picture has replaced what was shown */
    pictures: number;
    books: Record<string, Book>;
    days: Record<string, Day>;
    depth: Record<string, DepthNow>;
    orders: Map<number, Order>;
    /** stops that are over, newest first: the path they took is still to be seen */
    ended: Order[];
    positions: Record<string, Position>;
    risk: Risk | null;
    fills: Fill[];
    /** the journal, newest first */
    notices: Notice[];
    /** the market's time (ms since 1970 UTC) when the engine was last heard, and this page's own clock at that moment */
    clock: { at: number; heard: number } | null;
    /** whether each contract trades now, and until when in words */
    hours: Record<
        string,
        { open: boolean; words: string; brief: string; until: string | null; exits: string | null; closes_in: number | null }
    >;
    /** ms by which the newest heartbeat took longer than the quickest: the two clocks need not agree */
    delay: number;
}

/** Before anything was heard. */
export const EMPTY: DeskData = {
    feed: 'opening',
    fresh: true,
    sequence: 0,
    epoch: '',
    pictures: 0,
    books: {},
    days: {},
    depth: {},
    orders: new Map(),
    ended: [],
    positions: {},
    risk: null,
    fills: [],
    notices: [],
    clock: null,
    hours: {},
    delay: 0,
};
