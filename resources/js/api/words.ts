import type { Value } from '@/ui/value';

export const WORDS = {
    unreachable: 'The server could not be reached; nothing is known of what was sent.',
    answerBrokeOff: 'The answer broke off; nothing is known of what was sent.',
    signedOut: 'You are signed out.',
    answered: (status: Value) => `The server answered ${status}.`,
};
