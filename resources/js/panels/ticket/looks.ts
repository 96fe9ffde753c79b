/** A field with its name above it. */
export const LABEL = 'grid text-soft';
