import { create } from 'zustand';
import { Problem } from '@/api/client';
import { type Settings, saveSettings } from './settings';

export const useSettingsSheet = create<{ open: boolean; page: string }>(() => ({ open: false, page: 'entry' }));

/** Saves one document; gives back what the server had against it, empty where nothing. */
export async function trySaving<Name extends keyof Settings>(name: Name, document: Settings[Name]): Promise<string> {
    try {
        await saveSettings(name, document);
        return '';
    } catch (error) {
        if (error instanceof Problem) return error.message;
        throw error;
    }
}
