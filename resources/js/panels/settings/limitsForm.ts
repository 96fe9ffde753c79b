import type { ContractLimits, LimitsDocument } from '@/api/client';
import { typedNumber } from '@/model/typedNumber';

type Window = NonNullable<LimitsDocument['no_entries']>[number];

/** What is typed for every contract, or for one. */
export interface ContractFields {
    order_lots: string;
    position_lots: string;
    working_orders: string;
    risk_money: string;
    risk_percent: string;
    band_ticks: string;
    stop_required: boolean;
}

export interface WindowFields {
    /** ISO weekdays with commas between them, or `date` */
    days: string;
    date: string;
    from: string;
    until: string;
    zone: string;
}

/** The document as somebody types it: an empty field limits nothing. */
export interface LimitsFields {
    zone: string;
    rolls: string;
    daily_loss: string;
    drawdown_open: string;
    drawdown_closed: string;
    keep_percent: string;
    keep_from: string;
    orders_a_minute: string;
    losses_in_a_row: string;
    pause_loss: string;
    pause_minutes: string;
    flatten_before_close: string;
    each: ContractFields;
    /** by contract */
    contracts: Record<string, ContractFields>;
    windows: WindowFields[];
}

export const ON_A_DATE = 'date';

const text = (value: string | number | null | undefined): string => (value == null ? '' : String(value));

function contractFields(limits: ContractLimits | null | undefined): ContractFields {
    return {
        order_lots: text(limits?.order_lots),
        position_lots: text(limits?.position_lots),
        working_orders: text(limits?.working_orders),
        risk_money: text(limits?.trade_risk?.money),
        risk_percent: text(limits?.trade_risk?.percent),
        band_ticks: text(limits?.band_ticks),
        stop_required: limits?.stop_required ?? false,
    };
}

export const limitsFields = (document: LimitsDocument): LimitsFields => ({
    zone: document.day?.zone ?? 'UTC',
    rolls: document.day?.rolls ?? '00:00',
    daily_loss: document.daily_loss,
    drawdown_open: text(document.drawdown?.open),
    drawdown_closed: text(document.drawdown?.closed),
    keep_percent: text(document.keep_profit?.percent),
    keep_from: text(document.keep_profit?.from),
    orders_a_minute: text(document.orders_a_minute),
    losses_in_a_row: text(document.losses_in_a_row),
    pause_loss: text(document.pause?.loss),
    pause_minutes: text(document.pause?.minutes),
    flatten_before_close: text(document.flatten_before_close),
    each: contractFields(document.each_contract),
    contracts: Object.fromEntries(Object.entries(document.contracts ?? {}).map(([code, limits]) => [code, contractFields(limits)])),
    windows: (document.no_entries ?? []).map((window) => ({
        days: window.date === undefined ? (window.days ?? []).join(',') : ON_A_DATE,
        date: window.date ?? '',
        from: window.from,
        until: window.until,
        zone: window.zone ?? document.day?.zone ?? 'UTC',
    })),
});

const typed = (value = ''): string | null => typedNumber(value) || null;

/** A count; what is none goes as it was typed, for PHP to say what is wrong with it. */
const count = (value?: string): number | null => {
    const of = typed(value);
    return of !== null && /^\d{1,9}$/.test(of) ? Number(of) : (of as null);
};

function contractLimits(fields: Partial<ContractFields>): ContractLimits {
    const [money, percent] = [typed(fields.risk_money), typed(fields.risk_percent)];
    return {
        order_lots: count(fields.order_lots),
        position_lots: count(fields.position_lots),
        working_orders: count(fields.working_orders),
        trade_risk: money === null && percent === null ? null : { ...(money !== null && { money }), ...(percent !== null && { percent }) },
        band_ticks: count(fields.band_ticks),
        stop_required: fields.stop_required ?? false,
    };
}

/** Whether nothing is set in a contract, whatever of its fields has been shown. */
export const isEmpty = (fields: Partial<ContractFields>): boolean => Object.values(fields).every((value) => !value);

const windowOf = ({ days, date, from, until, zone }: WindowFields): Window =>
    days === ON_A_DATE ? { date, from, until, zone } : { days: days.split(',').map(Number), from, until, zone };

/** The document that the fields stand for; PHP reads it, and says what is wrong with it. */
export function limitsDocument(fields: LimitsFields): LimitsDocument {
    const [keep, from] = [typed(fields.keep_percent), typed(fields.keep_from)];
    const [loss, minutes] = [typed(fields.pause_loss), count(fields.pause_minutes)];
    return {
        format: 'lotrik.limits/1',
        day: { zone: fields.zone.trim(), rolls: fields.rolls.trim() },
        daily_loss: typedNumber(fields.daily_loss),
        drawdown: { open: typed(fields.drawdown_open), closed: typed(fields.drawdown_closed) },
        keep_profit: keep === null && from === null ? null : { percent: keep ?? '', from: from ?? '' },
        orders_a_minute: count(fields.orders_a_minute),
        losses_in_a_row: count(fields.losses_in_a_row),
        pause: loss === null && minutes === null ? null : { loss: loss ?? '', minutes: minutes ?? 0 },
        flatten_before_close: count(fields.flatten_before_close),
        no_entries: fields.windows.map(windowOf),
        each_contract: contractLimits(fields.each),
        contracts: Object.fromEntries(
            Object.entries(fields.contracts)
                .filter(([, of]) => !isEmpty(of))
                .map(([code, of]) => [code, contractLimits(of)]),
        ),
    };
}
