import { useEffect, useRef, useState } from 'react';
import { type Account, list, renewSession, useSession } from '@/api/client';
import { useChoices } from '@/model/choices';

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
    const dialog = useRef<HTMLDialogElement>(null);
    const [words, setWords] = useState('');
    useEffect(() => {
        if (isLost && !dialog.current?.open) dialog.current?.showModal();
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
        <dialog
            ref={dialog}
            className="doubt"
            role="alertdialog"
            aria-label="Signed out"
            data-field="signed-out"
            onCancel={(event) => event.preventDefault()}
        >
            <p>You are signed out. Stops and orders work on at the venue, and drafts stay here. {words}</p>
            <a className="order-button" href="/sign-in" target="_blank" rel="noreferrer">
                Sign in in a new window
            </a>
            <button
                type="button"
                data-name="go-on"
                onClick={() => void goOn().then((is) => setWords(is ? '' : 'This browser is not signed in yet.'))}
            >
                Go on here
            </button>
        </dialog>
    );
}
