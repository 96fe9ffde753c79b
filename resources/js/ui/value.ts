/** What is put into a sentence: written already the way it is shown, or a whole number. */
export type Value = string | number;
