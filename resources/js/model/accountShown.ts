import type { Account } from '@/api/client';

/** The account that the address names, so that a reload stays on it and each tab has its own; else the first that is open. */
export const accountShown = (accounts: readonly Account[]): Account | undefined => {
    const named = Number(new URLSearchParams(location.search).get('account'));
    return accounts.find((account) => account.id === named) ?? accounts.find((account) => !account.closed) ?? accounts[0];
};

export const accountAddress = (id: number): string => `/?account=${id}`;
