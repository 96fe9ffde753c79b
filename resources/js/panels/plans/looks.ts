import { FIELD } from '@/ui/looks';

export const NUMBER = `${FIELD} w-54 font-mono text-usual leading-[normal]`;
export const PART = 'inline-flex flex-wrap items-center gap-4 border-l-2 border-rule pl-6';
