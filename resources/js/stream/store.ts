import { createMarket } from './market';

export { isBroken } from './market';

/** The live market of the account that the desk trades. */
export const live = createMarket();

export const { useDesk, useWatched, receive, say, silence } = live;
export const { fetch: fetchTape, of: tapeOf } = live.prints;
export const { fetch: fetchColumns, of: columnsOf } = live.columns;

export type { Book, Day, DepthNow, DeskData, FeedState, Levels, Notice } from './market';
