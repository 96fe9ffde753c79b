import type { Account } from '@/api/client';
import { useAccounts } from '@/api/queries';
import { accountAddress } from '@/model/accountShown';
import { ask } from '@/ui/question';
import { Select } from '@/ui/Select';
import { leftBehind } from './leftBehind';
import { WORDS } from './words';

function choose(account: Account): void {
    const go = () => location.assign(accountAddress(account.id));
    // Asked each time: a letter that finds the list in focus must not send the next order to another account.
    ask({
        title: `Show ${account.name}?`,
        words: WORDS.showAccount(leftBehind(), account.name),
        safe: 'Stay here',
        answers: [{ label: `Show ${account.name}`, act: go, name: 'show-account' }],
    });
}

/** The account that this desk trades on. Where there are several it is chosen here, by hand only: no key changes it. */
export function AccountPicker({ account }: { account: Account }) {
    const all = useAccounts();
    // Those that are closed are read from the settings.
    const accounts = all.filter((one) => !one.closed || one.id === account.id);
    if (accounts.length < 2) return <>{account.name}</>;
    return (
        <Select
            className="font-semibold"
            aria-label="Account"
            data-field="account"
            value={account.id}
            onChange={(event) => {
                const other = accounts.find((one) => one.id === Number(event.target.value));
                if (other) choose(other);
            }}
        >
            {accounts.map((one) => (
                <option key={one.id} value={one.id}>
                    {one.name}
                    {one.closed && ', closed'}
                </option>
            ))}
        </Select>
    );
}
