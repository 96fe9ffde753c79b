import { createContext, type RefObject, useContext } from 'react';
import type { Account, Contract } from '@/api/client';
import type { LadderActs } from '@/model/ladderActs';
import { WORDS } from './words';

/** What every panel of the desk needs. */
export interface Shared {
    account: Account;
    contract: Contract;
    onCancel: (id: number) => void;
    acts: RefObject<LadderActs | null>;
}

export const SharedContext = createContext<Shared | null>(null);

export function useShared(): Shared {
    const shared = useContext(SharedContext);
    if (shared === null) throw new Error(WORDS.panelOutside);
    return shared;
}
