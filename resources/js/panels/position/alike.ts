import type { Position } from '@/api/client';
import { WORDS } from './words';

type Portion = Position['entries'][number]['portions'][number];

/** Portions of one entry whose stop and target stand at the same prices and are steered alike: one line of the card. */
export interface Line {
    key: string;
    first: Portion;
    numbers: number[];
    /** such as "portions 1 and 2" */
    words: string;
    lots: number;
    /** lots of these portions, those of other lines included: a portion is closed whole */
    closes: number;
    stops: number[];
    targets: number[];
}

const sum = (portions: readonly Portion[]): number => portions.reduce((lots, portion) => lots + portion.lots, 0);
const ids = (orders: readonly (number | null)[]): number[] => orders.filter((order) => order !== null);

/** Where a target or stop does not work yet its line has no button for it, so this tells lines apart, too. */
const looksOf = ({ stop, target, stop_order, target_order, steering, back_words, left_behind }: Portion): string =>
    [stop, target, stop_order !== null, target_order !== null, steering, back_words, left_behind].join(' ');

export function alike(portions: readonly Portion[]): Line[] {
    const lines = new Map<string, [Portion, ...Portion[]]>();
    for (const portion of portions) {
        const there = lines.get(looksOf(portion));
        if (there) there.push(portion);
        else lines.set(looksOf(portion), [portion]);
    }
    return [...lines.values()].map((of) => {
        const numbers = [...new Set(of.map((portion) => portion.portion))];
        return {
            key: `${of[0].portion}/${of[0].group}`,
            first: of[0],
            numbers,
            words: WORDS.portions(numbers),
            lots: sum(of),
            closes: sum(portions.filter((portion) => numbers.includes(portion.portion))),
            stops: ids(of.map((portion) => portion.stop_order)),
            targets: ids(of.map((portion) => portion.target_order)),
        };
    });
}
