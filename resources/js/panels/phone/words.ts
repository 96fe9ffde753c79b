import type { Value } from '@/ui/value';

export const WORDS = {
    noLadder: 'no ladder is in sight',
    cancelAll: (code: Value) => `Cancel all in ${code}`,
    riskFromHere: 'Risk from here, with fees',
    cover: (lots: Value, name: Value) => `Protect ${lots} with ${name}`,
    flattening: (lots: Value) => `Flattening · ${lots} left`,
    byOrder: 'by order',
    stepTarget: (portion: Value, by: number) => `Target of portion ${portion} one tick ${by < 0 ? 'lower' : 'higher'}`,
};
