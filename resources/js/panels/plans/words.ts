import type { Value } from '@/ui/value';

export const WORDS = {
    barCount: (label: Value) => `${label}, how many bars`,
    handle: (label: Value, stands: Value) => `${label}: ${stands}. Drag it, or use the arrow keys.`,
    upToLimit: 'up to a limit (stop-limit)',
    ratchets: 'Ratchets, which only ever tighten the stop',
    ratchetAt: (index: Value) => `Ratchet ${index}, best profit at which it acts`,
    ratchetDoes: (index: Value) => `Ratchet ${index}, what it does`,
    ratchetTrail: (index: Value) => `Ratchet ${index}, how far behind`,
    ratchetBy: (index: Value) => `Ratchet ${index}, jumps`,
    removeRatchet: (index: Value) => `Remove ratchet ${index}`,
    ticksLocked: 'Ticks locked in, beyond the entry',
    portionLots: (index: Value) => `Portion ${index}, lots`,
    portionTarget: (index: Value) => `Portion ${index}, target`,
    targetOfPortion: (index: Value) => `Target of portion ${index}`,
    removePortion: (index: Value) => `Remove portion ${index}`,
    portions: 'Portions, filled in this order',
    exitQuote: 'the quote you could get out at',
    coversEntry: 'the entry it is sent with',
    cancelsEntry: 'cancels what still works of the entry',
    oneTickIs: (tickSize: Value, tickValue: Value, currency: Value) => `one tick is ${tickSize} = ${tickValue} ${currency}`,
    isFlat: (code: Value) => `${code} is flat`,
    unsaved: 'The plan has changes that are not saved.',
    deleteThePlan: (name: Value) => `Delete the plan ${name}?`,
    mustWin: 'Must win to break even',
    withFees: (money: Value) => `with ${money} fees`,
    portionsOwn: (index: Value) => `Portion ${index}'s own`,
    cannotBeMeasured: 'It cannot be measured here as it stands.',
    saveAsNew: 'Save as a new plan',
    onLine: 'on a line, in ticks from the entry',
    tryoutPicture: 'Price, stops and exits as the plan would have had them. Draw a line with the pointer to try another.',
    /** `7.2 rounded to 7 ticks · 400.50 · −17.50` */
    point: (unrounded: string, ticks: number, price: Value, money: Value) =>
        `${unrounded === '' ? '' : `${unrounded} rounded to `}${ticks} ${ticks === 1 ? 'tick' : 'ticks'} · ${price} · ${money}`,
    result: (ticks: Value, money: Value, fees: Value, net: Value, open: number) =>
        `${ticks} ticks · ${money} − ${fees} fees = ${net}${open > 0 ? ` · ${open} still open` : ''}`,
};
