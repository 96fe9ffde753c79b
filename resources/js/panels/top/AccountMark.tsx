import clsx from 'clsx';
import { useAccounts } from '@/api/queries';
import { useChoices } from '@/model/choices';

/** In the order in which the accounts were opened, round and round; the name says it, too. */
const TONES = ['border-slate', 'border-clay', 'border-moss', 'border-sand'];

/** The account that is traded, where a user has several: on every ladder, on the ticket and on every question. */
export function AccountMark() {
    const account = useChoices((choices) => choices.account);
    const accounts = useAccounts();
    if (account === null || accounts.length < 2) return null;
    const at = accounts.findIndex((one) => one.id === account.id);
    return (
        <b
            className={clsx('flex-none border-l-6 bg-paper px-6 text-small leading-20 text-ink', TONES[at % TONES.length])}
            data-part="account-mark"
        >
            {account.name}
            {account.closed && ', closed'}
        </b>
    );
}
