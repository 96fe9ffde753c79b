import type { FormEvent } from 'react';
import { ask } from '@/ui/question';
import { leftBehind } from './leftBehind';
import { WORDS } from './words';

/** With something open, working or drafted it asks first: it stands near buttons that are pressed all day. */
function leave(event: FormEvent<HTMLFormElement>): void {
    const left = leftBehind();
    if (left === '') return;
    event.preventDefault();
    const form = event.currentTarget;
    ask({
        title: 'Sign out?',
        words: WORDS.signOutWith(left),
        safe: 'Stay here',
        answers: [{ label: 'Sign out', act: () => form.submit(), name: 'sign-out' }],
    });
}

export function SignOut() {
    return (
        <form className="ml-12 flex-none border-l border-rule pl-12" method="post" action="/sign-out" onSubmit={leave}>
            <input type="hidden" name="_token" value={document.querySelector<HTMLMetaElement>('meta[name="csrf-token"]')?.content} />
            <button type="submit">Sign out</button>
        </form>
    );
}
