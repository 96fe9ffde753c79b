import type { Contract, Position, Preview } from '@/api/client';

/**
 * Ticks written as prices, and PHP's P/L line written as money. Nothing is decided here: these are the writing of
 * numbers that PHP gave, checked against vectors that PHP writes (tests/Reference/PageWritingTest).
 */

/** PHP's lines of what closing everything would make or lose. */
export type Lines = NonNullable<Preview['lines']>;

export type Scaled = Pick<Contract, 'tick_size' | 'price_scale' | 'display'>;

const tickUnits = (contract: Scaled): number => {
    const [whole = '0', part = ''] = contract.tick_size.split('.');
    return Number(whole + part.padEnd(contract.price_scale, '0').slice(0, contract.price_scale));
};

function scaled(units: number, scale: number): string {
    const digits = String(Math.abs(units)).padStart(scale + 1, '0');
    const text = scale === 0 ? digits : `${digits.slice(0, -scale)}.${digits.slice(-scale)}`;
    return units < 0 ? `-${text}` : text;
}

/** The price as data: what the API takes. */
export function price(contract: Scaled, tick: number): string {
    return scaled(tick * tickUnits(contract), contract.price_scale);
}

/** The tick of a price as data, which lies on the grid. */
export function tickOf(contract: Scaled, price: string): number {
    const [whole = '0', part = ''] = price.replace('-', '').split('.');
    const units = Number(whole + part.padEnd(contract.price_scale, '0').slice(0, contract.price_scale));
    return Math.round((price.startsWith('-') ? -units : units) / tickUnits(contract));
}

/** The price for the eye: in decimals, or in 32nds with their halves and quarters. */
export function writePrice(contract: Scaled, tick: number): string {
    if ('decimals' in contract.display) {
        let text = price(contract, tick);
        for (let extra = contract.price_scale - contract.display.decimals; extra > 0 && text.endsWith('0'); extra--)
            text = text.slice(0, -1);
        return text.endsWith('.') ? text.slice(0, -1) : text;
    }
    const parts = Math.round((Math.abs(tick) * tickUnits(contract) * 128) / 10 ** contract.price_scale);
    const rest = parts % 128;
    return `${tick < 0 ? '-' : ''}${Math.floor(parts / 128)}-${String(Math.floor(rest / 4)).padStart(2, '0')}${['', '¼', '½', '¾'][rest % 4]}`;
}

/** Money in units of 10^-scale, rounded half up to the currency's minor unit and always signed. */
export function writeMoney(units: number, scale: number, minor: number): string {
    const step = 10 ** (scale - minor);
    const rounded = Math.sign(units) * Math.round(Math.abs(units) / step);
    return `${units < 0 && rounded !== 0 ? '' : '+'}${scaled(rounded === 0 ? 0 : rounded, minor)}`;
}

/** An exact amount that PHP gave, as it is shown: rounded to the minor unit; signed where it is a result. */
export function writeExact(amount: string, minor: number, signed = true): string {
    const scale = amount.split('.')[1]?.length ?? 0;
    const text = writeMoney(Number(amount.replace('.', '')) * 10 ** Math.max(0, minor - scale), Math.max(scale, minor), minor);
    return signed ? text : text.replace('+', '');
}

/** P/L at a rung: PHP's line, base + slope × tick. */
export function pnlAt(line: Position['pnl'], tick: number): number {
    return line.base + line.slope * tick;
}

/** What closing everything at a tick would make or lose, as PHP's lines have it; money where there is no margin to be a percentage of. */
export function writePnl(lines: Lines, unit: keyof Lines, tick: number, minor: number): string {
    const line = unit === 'money' ? null : lines[unit];
    if (line === null) return writeMoney(pnlAt(lines.money, tick), lines.money.scale, minor);
    const text = writeMoney(pnlAt(line, tick), line.scale, line.shown);
    return unit === 'percent' ? `${text} %` : text;
}

/** `1 lot`, `2 lots`. */
export const countLots = (lots: number): string => `${lots} ${lots === 1 ? 'lot' : 'lots'}`;
