import { create } from 'zustand';

/** Whether the ticket is open, and a price that was clicked for it (in ticks, of which contract). */
export const useTicket = create<{ open: boolean; taken: { code: string; tick: number } | null }>(() => ({ open: false, taken: null }));
