import { create } from 'zustand';

export const useSettingsSheet = create<{ open: boolean; page: string }>(() => ({ open: false, page: 'entry' }));
