import { createContext, useContext } from 'react';
import type { DeskData } from './deskData';
import { createMarket, type Market } from './market';

export { isBroken } from './deskData';

/** The live market of the account that the desk trades: commands go there, whatever market is looked at. */
export const live = createMarket();

export const { receive, say, silence } = live;

/** What the live market's stream has told by now. */
export const deskNow = live.useDesk.getState;

/** The market that is shown: another can be looked at in its place. */
export const MarketContext = createContext<Market>(live);

export const useMarket = (): Market => useContext(MarketContext);

/** What the stream of the market that is shown has told. */
export function useDesk<Of>(select: (desk: DeskData) => Of): Of {
    return useMarket().useDesk(select);
}

/** What shows a contract's market closely says so: it is then drawn often, and by itself. */
export function useWatched(code: string): void {
    useMarket().useWatched(code);
}

export type { Book, Day, DepthNow, DeskData, FeedState, Levels, Notice } from './deskData';
