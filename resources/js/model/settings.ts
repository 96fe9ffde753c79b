import { create } from 'zustand';
import { change } from '@/api/change';
import { call, type Order } from '@/api/client';

/** One step of an action key: an order at a price counted from something, or something else that the desk does. */
export type Step =
    | {
          do: 'order';
          side: 'buy' | 'sell';
          kind: 'market' | 'limit' | 'stop' | 'mit';
          from: string | null;
          offset: number;
          lots: number | 'chosen' | 'position' | 'half';
          plan: string;
      }
    | { do: Exclude<string, 'order'>; ticks?: number };

/** What a step does, as a key of the deck says it. */
export const STEP_WORDS: Record<string, string> = {
    order: 'send an order',
    flatten: 'flatten',
    reverse: 'reverse',
    'half-off': 'half off',
    'cancel-buys': 'cancel buys',
    'cancel-sells': 'cancel sells',
    'cancel-all': 'cancel all',
    'break-even': 'stops to break-even',
    closer: 'stops closer',
    tie: 'tie or untie',
    'next-plan': 'next plan',
    'next-lots': 'next lots',
};

export interface Tile {
    name: string;
    key: string | null;
    steps: Step[];
}

/** What is different for one contract. A plan of 0 is no exit plan. */
export interface ContractEntry {
    lots_row?: number[];
    lots?: number;
    plan?: number;
    tif?: 'day' | 'gtc';
    /** what the ticket begins with */
    kind?: Order['kind'];
}

export interface Settings {
    keys: { format: string; keys: Record<string, string> };
    'action-keys': { format: string; tiles: Tile[] };
    layouts: { format: string; opens: string | null; layouts: Layout[] };
    entry: {
        format: string;
        lots_row: number[];
        quick_row: string[];
        confirm_over: number | null;
        double_press_ms: number;
        idle_minutes: number;
        /** a press on the ladder acts as it goes down; else where it is let go */
        act_on_press: boolean;
        /** buttons that open send at once, one-click or not */
        buttons_at_once: boolean;
        /** a market order beyond the price band is sent for the lots that stay within it; else it is refused */
        cut_to_band: boolean;
        contracts: Record<string, ContractEntry>;
    };
}

/** A named layout of the desk; `dock` is the dock's own text. */
export interface Layout {
    name: string;
    dock: string;
    ladders: { id: number; code: string; lots: number; plan: number | null }[];
}

/** The user's own settings, as the server keeps them. */
export const useSettings = create<Settings>(() => ({
    keys: { format: '', keys: {} },
    'action-keys': { format: '', tiles: [] },
    layouts: { format: 'lotrik.layouts/1', opens: null, layouts: [] },
    entry: {
        format: '',
        lots_row: [1, 2, 3, 5, 10],
        quick_row: [],
        confirm_over: null,
        double_press_ms: 150,
        idle_minutes: 10,
        act_on_press: false,
        buttons_at_once: false,
        cut_to_band: false,
        contracts: {},
    },
}));

interface Item {
    name: string;
    document: unknown;
}

export async function loadSettings(): Promise<void> {
    const { items } = await call<{ items: Item[] }>('GET', 'settings');
    useSettings.setState(Object.fromEntries(items.map(({ name, document }) => [name, document])));
}

/**
 * Saves one document as it is made from the one before; gives back what the server had against it, empty where nothing: then nothing
 * is changed.
 */
export const saveSettings = <Name extends keyof Settings>(name: Name, make: (now: Settings[Name]) => Settings[Name]): Promise<string> =>
    change(`settings ${name}`, async () => {
        const saved = await call<Item>('PUT', `settings/${name}`, make(useSettings.getState()[name]));
        useSettings.setState({ [name]: saved.document } as Pick<Settings, Name>);
    });

export const lotsRow = (settings: Settings, code: string): number[] => settings.entry.contracts[code]?.lots_row ?? settings.entry.lots_row;
