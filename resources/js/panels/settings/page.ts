/** The pages of the settings are of one size, so that the sheet stays as it is from one to the other. */
export const PAGE = 'flex h-470 flex-col gap-8 overflow-y-auto pr-8 text-usual';
export const GROUP = 'rounded-card border border-rule px-10 py-6';
export const FIELDS = 'grid grid-cols-2 gap-x-8 gap-y-4';
export const LABEL = 'grid text-soft';
