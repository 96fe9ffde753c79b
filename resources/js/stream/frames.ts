import * as z from 'zod/mini';
import type { Fill, Order, Position, Risk } from '@/api/client';
import type { components } from '@/api/generated';

type Described = Required<components['schemas']['StreamEvents']>;

const row2 = z.tuple([z.number(), z.number()]);
const row3 = z.tuple([z.number(), z.number(), z.number()]);
const row4 = z.tuple([z.number(), z.number(), z.number(), z.number()]);
const level = z.nullable(z.number());
const side = z.enum(['buy', 'sell']);

/** Time in ms since 1970 UTC, tick, lots, 1 for a buyer and -1 for a seller, the venue's number. */
export type TradeRow = [at: number, tick: number, lots: number, sign: number, number: number];

/** Documents of many fields, which the API's answers have too: that it is one is seen by what the desk cannot do without. */
const having = <Document extends object>(...fields: (keyof Document & string)[]) =>
    z.custom<Document>((value) => typeof value === 'object' && value !== null && fields.every((field) => field in value));

const order = having<Order>('id', 'contract', 'role', 'side', 'state', 'leaves', 'level', 'path');
const fill = having<Fill>('id', 'contract', 'level', 'quantity', 'time');
const position = having<Position>('contract', 'quantity', 'words', 'bare', 'entries', 'results', 'open_money', 'next');
const risk = having<Risk>('day', 'loss_room', 'loss_limit');

const book = z.object({
    contract: z.string(),
    full: z.optional(z.boolean()),
    bids: z.array(row3),
    asks: z.array(row3),
    last: z.optional(z.nullable(z.object({ price: z.number(), size: z.number(), aggressor: side }))),
});

const day = z.object({
    contract: z.string(),
    full: z.boolean(),
    began: z.nullable(z.string()),
    settlement: level,
    open: level,
    high: level,
    low: level,
    lots: z.number(),
    reference: level,
    average: z.nullable(z.object({ level: z.number(), price: z.string(), words: z.string() })),
    limits: z.nullable(row2),
    traded: z.array(row3),
});

const column = z.object({
    step: z.literal([250, 2000, 15000]),
    at: z.number(),
    from: z.number(),
    lots: z.array(z.number()),
    trades: z.array(row3),
});

/** What each event of the stream holds: as the API's description has it, to which these types are held. */
const FRAMES = {
    state: z.object({
        epoch: z.string(),
        account: z.number(),
        sequence: z.number(),
        orders: z.array(order),
        positions: z.array(position),
        risk,
        books: z.record(z.string(), book),
        days: z.array(day),
    }),
    book,
    trade: z.object({ contract: z.string(), price: z.number(), size: z.number(), aggressor: side, at: z.number(), number: z.number() }),
    // Seen by its edge alone: in a burst there are a thousand rows a second.
    trades: z.object({
        contract: z.string(),
        rows: z.custom<TradeRow[]>((rows) => Array.isArray(rows) && rows.every((row) => Array.isArray(row) && row.length === 5)),
    }),
    day,
    depth: z.object({
        contract: z.string(),
        just: z.array(row3),
        columns: z.array(column),
        sums: z.array(row4),
        changed: z.array(row2),
        unusual: z.number(),
        full: z.number(),
    }),
    mark: z.object({
        positions: z.array(having<Partial<Position> & { contract: string }>('contract')),
        ahead: z.array(row2),
        risk,
    }),
    order,
    fill,
    position,
    risk,
    notice: z.object({
        sequence: z.number(),
        time: z.string(),
        contract: z.nullable(z.string()),
        type: z.string(),
        words: z.string(),
        speaks: z.boolean(),
    }),
    heartbeat: z.object({
        at: z.string(),
        hours: z.record(
            z.string(),
            z.object({
                open: z.boolean(),
                words: z.string(),
                brief: z.string(),
                until: z.nullable(z.string()),
                exits: z.nullable(z.string()),
                closes_in: z.nullable(z.number()),
            }),
        ),
        sent: z.number(),
        sequence: z.number(),
        epoch: z.string(),
    }),
} satisfies { [Name in keyof Described]: z.ZodMiniType<Described[Name]> };

export type FrameName = keyof typeof FRAMES;
export type Frame<Name extends FrameName> = z.infer<(typeof FRAMES)[Name]>;

export const FRAME_NAMES = Object.keys(FRAMES) as FrameName[];

/** null for what this page does not understand: it is older or newer than the engine. */
export function readFrame<Name extends FrameName>(name: Name, text: string): Frame<Name> | null {
    try {
        const read = FRAMES[name].safeParse(JSON.parse(text));
        return read.success ? (read.data as Frame<Name>) : null;
    } catch {
        return null;
    }
}
