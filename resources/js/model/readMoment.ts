const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const MINUTE_MS = 60_000;

/** A clock's time in the zone of this window; null where no clock shows it, such as on the 31st of a short month. */
function local(year: number, month: number, day: number, time: readonly string[]): number | null {
    const [hour, minute, second] = [0, 1, 2].map((at) => Number(time[at] ?? 0)) as [number, number, number];
    const date = new Date(year, month, day, hour, minute, second);
    const isSo = date.getMonth() === month && date.getDate() === day && date.getHours() === hour && date.getMinutes() === minute;
    return isSo && second < 60 ? date.getTime() : null;
}

const timeOf = (text: string | undefined): string[] => (text ?? '').split(':');

/**
 * A moment to come as a trader types it: `15:00`, `4 dec 15:00`, `2026-12-04 15:00`, `+90m`, `+1h30m`, `close`; in the zone of this window
 * but for one that names its own. In ms since 1970 UTC.
 *
 * @param closes when the contract's session ends; null while it is shut, or never
 *
 * @returns null where it cannot be read, or is over
 */
export function readMoment(typed: string, now: number, closes: number | null): number | null {
    const text = typed.trim().toLowerCase();
    const today = new Date(now);
    const after = (at: number | null): number | null => (at !== null && at > now ? at : null);
    if (text === 'close') return after(closes);
    const ahead = /^\+\s*(?:(\d{1,4})\s*h)?\s*(?:(\d{1,5})\s*m)?\s*(?:(\d{1,6})\s*s)?$/.exec(text);
    if (ahead) {
        const [hours, minutes, seconds] = [ahead[1], ahead[2], ahead[3]].map((part) => Number(part ?? 0)) as [number, number, number];
        return after(now + (hours * 60 + minutes) * MINUTE_MS + seconds * 1000);
    }
    if (/^\d{1,2}:\d{2}(:\d{2})?$/.test(text)) {
        for (const days of [0, 1, 2]) {
            const day = new Date(today.getFullYear(), today.getMonth(), today.getDate() + days);
            const at = after(local(day.getFullYear(), day.getMonth(), day.getDate(), timeOf(text)));
            if (at !== null) return at;
        }
        return null;
    }
    const dated = /^(\d{1,2})\s+([a-z]{3})[a-z]*\s+(\d{1,2}:\d{2}(?::\d{2})?)$/.exec(text);
    if (dated) {
        const month = MONTHS.indexOf(dated[2] ?? '');
        if (month < 0) return null;
        const year = today.getFullYear();
        const thisYear = local(year, month, Number(dated[1]), timeOf(dated[3]));
        return thisYear === null || thisYear > now ? thisYear : local(year + 1, month, Number(dated[1]), timeOf(dated[3]));
    }
    const whole = /^(\d{4})-(\d{2})-(\d{2})[t ](\d{2}:\d{2}(?::\d{2})?)$/.exec(text);
    if (whole) return after(local(Number(whole[1]), Number(whole[2]) - 1, Number(whole[3]), timeOf(whole[4])));
    return /^\d{4}-\d{2}-\d{2}t.*(z|[+-]\d{2}:\d{2})$/.test(text) ? after(Number.isNaN(Date.parse(text)) ? null : Date.parse(text)) : null;
}
