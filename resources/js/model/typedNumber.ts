/**
 * A number as somebody types it: a comma may stand for the point, a percent sign at its end says nothing new. What is no such number is
 * left as it is, for PHP to say what is wrong with it.
 */
export function typedNumber(typed: string): string {
    const plain = typed.trim().replace(/\s*%$/, '');
    // Three figures behind a comma may as well be thousands: "1,881" is taken for neither.
    return /^[+-]?(0?,\d+|\d+,(\d{1,2}|\d{4,}))$/.test(plain) ? plain.replace(',', '.') : plain;
}
