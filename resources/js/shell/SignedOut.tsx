import { useEffect, useState } from 'react';
import { type Account, list, renewSession, useSession } from '@/api/client';
import { useChoices } from '@/model/choices';
import { Ask } from '@/ui/Ask';
import { Button } from '@/ui/Button';
import { BUTTON } from '@/ui/looks';
import { WORDS } from './words';

/** Whoever is signed in now goes on here if it is the same trader; somebody else gets a desk of their own. */
async function goOn(): Promise<boolean> {
    if (!(await renewSession())) return false;
    const mine = await list<Account>('accounts').catch(() => null);
    // Signed out again meanwhile, or the line is down: asked once more.
    if (mine === null) return false;
    if (!mine.some((account) => account.id === useChoices.getState().account?.id)) location.reload();
    return true;
}

/** The session has ended, here or in another window: the desk stays as it is behind this, with its drafts. */
export function SignedOut() {
    const isLost = useSession((session) => session.isLost);
    const [words, setWords] = useState('');
    useEffect(() => {
        if (!isLost) setWords('');
    }, [isLost]);
    // Whoever has signed in elsewhere comes back to this window.
    useEffect(() => {
        if (!isLost) return;
        const look = () => void goOn();
        window.addEventListener('focus', look);
        return () => window.removeEventListener('focus', look);
    }, [isLost]);
    if (!isLost) return null;
    return (
        <Ask
            title="Signed out"
            name="signed-out"
            byItself
            // There is nothing behind it that could go on.
            leave={() => {}}
            words={WORDS.signedOut(words)}
        >
            <a className={BUTTON.answer} href="/sign-in" target="_blank" rel="noreferrer">
                {WORDS.signInElsewhere}
            </a>
            <Button tone="answer" data-name="go-on" onClick={() => void goOn().then((is) => setWords(is ? '' : WORDS.notSignedInYet))}>
                Go on here
            </Button>
        </Ask>
    );
}
