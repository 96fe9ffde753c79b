import type { Value } from './value';

export const WORDS = {
    newerPage: 'The server has a newer page.',
    rowsHeld: (news: number) => `list held under the pointer · ${news} new`,
    panelFailed: (panel: Value) => `${panel} could not be drawn`,
    pageFailed: '). Your orders and stops rest in the engine, not in this page. The keys that flatten and cancel still work.',
    noJson: (name: Value) => `${name} is no JSON; choose a file that was exported here.`,
};
