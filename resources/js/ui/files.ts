import { WORDS } from './words';

/** Hands a document to the trader as a file. */
export function exportJson(name: string, document_: object): void {
    const url = URL.createObjectURL(new Blob([`${JSON.stringify(document_, null, 2)}\n`], { type: 'application/json' }));
    const link = document.createElement('a');
    link.href = url;
    link.download = name;
    link.click();
    URL.revokeObjectURL(url);
}

/** What is in a file that the trader chose; words of what is wrong where it is no JSON. */
export async function importJson(file: File): Promise<unknown> {
    const text = await file.text();
    try {
        return JSON.parse(text);
    } catch {
        throw new Error(WORDS.noJson(file.name));
    }
}
