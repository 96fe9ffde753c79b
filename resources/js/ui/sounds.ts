import * as z from 'zod/mini';
import { createKept } from './kept';

export type Sound = 'fill' | 'stop' | 'refusal' | 'alarm' | 'level';

/** Off until asked for. */
export const useSounds = createKept<{ on: boolean; silent: Sound[] }>(
    'sounds',
    { on: z.boolean(), silent: z.array(z.enum(['fill', 'stop', 'refusal', 'alarm', 'level'])) },
    { on: false, silent: [] },
);

/** One kind of sound on or off, for as long as sounds are on at all. */
export function silence(sound: Sound, silent: boolean): void {
    const now = useSounds.getState().silent.filter((other) => other !== sound);
    useSounds.setState({ silent: silent ? [...now, sound] : now });
    if (!silent) play(sound);
}

/** Notes in Hz, one after the other: a fill rises, a stop move is one short note, a refusal falls, the alarm repeats, a marked level knocks twice. */
const NOTES: Record<Sound, number[]> = {
    fill: [660, 880],
    stop: [740],
    refusal: [440, 330],
    alarm: [520, 390, 520, 390],
    level: [587, 587],
};
const NOTE_S = 0.09;

let context: AudioContext | null = null;

export function toggleSounds(): void {
    const on = !useSounds.getState().on;
    useSounds.setState({ on });
    if (on) play('fill');
}

export function play(sound: Sound): void {
    const { on, silent } = useSounds.getState();
    if (!on || silent.includes(sound)) return;
    context ??= new AudioContext();
    const start = context.currentTime;
    NOTES[sound].forEach((note, at) => {
        if (!context) return;
        const oscillator = context.createOscillator();
        const volume = context.createGain();
        oscillator.frequency.value = note;
        volume.gain.setValueAtTime(0.08, start + at * NOTE_S);
        volume.gain.linearRampToValueAtTime(0, start + (at + 1) * NOTE_S);
        oscillator.connect(volume).connect(context.destination);
        oscillator.start(start + at * NOTE_S);
        oscillator.stop(start + (at + 1) * NOTE_S);
    });
}
