import { create } from 'zustand';

/** The account's trading day, as a sheet over the desk. */
export const useDaySheet = create<{ open: boolean }>(() => ({ open: false }));

export const openDay = (): void => useDaySheet.setState({ open: true });
