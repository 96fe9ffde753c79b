/** `/each_contract/order_lots` is "Each contract, order lots"; places in lists are counted from one. */
function place(pointer: string): string {
    const words = pointer
        .split('/')
        .filter((part) => part !== '')
        .map((part) => (/^\d+$/.test(part) ? `${Number(part) + 1}` : part.replaceAll('_', ' ')));
    const joined = words.join(', ').replaceAll(/, (\d+)/g, ' $1');
    return joined.charAt(0).toUpperCase() + joined.slice(1);
}

/**
 * What the server says of a field that is wrong, as somebody at the page reads it. The API keeps its pointer and its pair of
 * found and expected; everything else is the server's own sentence.
 */
export function refusalWords(detail: string): string {
    const parts = /^(\/?[\w./-]*): found ([\s\S]+?), expected ([\s\S]+)$/.exec(detail);
    if (!parts) return detail;
    const [, pointer = '', found = '', expected = ''] = parts;
    const where = pointer === '' || pointer === '/' ? '' : `${place(pointer)}: `;
    if (found === 'nothing') return `${where}type ${expected}`;
    return /^(an?|the|one|at|up|some|whole|text)\b/.test(expected)
        ? `${where}${found} is not ${expected}`
        : `${where}${found} does not fit; use ${expected}`;
}
