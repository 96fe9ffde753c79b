import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { change } from '@/api/change';
import { type Account, call } from '@/api/client';
import { putAccount, useAccounts } from '@/api/queries';
import { accountAddress } from '@/model/accountShown';
import { useChoices } from '@/model/choices';
import { typedNumber } from '@/model/typedNumber';
import { useDesk } from '@/stream/store';
import { Button } from '@/ui/Button';
import { Fault } from '@/ui/Fault';
import { FRAME } from '@/ui/looks';
import { ask } from '@/ui/question';
import { TextField } from '@/ui/TextField';
import { Page } from './Page';
import { WORDS } from './words';

const ACCOUNTS = 'accounts';

const show = (id: number): void => location.assign(accountAddress(id));

function put(account: Account): void {
    putAccount(account);
    if (useChoices.getState().account?.id === account.id) useChoices.setState({ account });
}

/** The practice accounts of the user: opened, closed and reset, each with its money and its rates. */
export function AccountsPage() {
    const accounts = useAccounts();
    const [fault, setFault] = useState('');
    return (
        <Page name="accounts">
            <Fault words={fault} name="accounts-fault" />
            <OpenForm tell={setFault} />
            {[...accounts]
                .sort((a, b) => Number(a.closed) - Number(b.closed) || a.id - b.id)
                .map((account) => (
                    <One key={account.id} account={account} tell={setFault} />
                ))}
        </Page>
    );
}

interface Told {
    tell: (fault: string) => void;
}

interface Opening {
    name: string;
    currency: string;
    balance: string;
    loss: string;
}

function OpenForm({ tell }: Told) {
    const shown = useChoices((choices) => choices.account);
    const [isOpened, setOpened] = useState(false);
    const { register, handleSubmit, formState } = useForm<Opening>({
        defaultValues: { name: '', currency: shown?.currency ?? 'EUR', balance: '25000.00', loss: '' },
    });
    const open = async ({ name, currency, balance, loss }: Opening) => {
        // An account of the same currency begins with the same rates; another one's are its own.
        const rates = currency === shown?.currency ? shown.rates : {};
        const daily = loss.trim() === '' ? {} : { daily_loss: typedNumber(loss) };
        const body = { name, currency, balance: typedNumber(balance), rates, ...daily };
        const fault = await change(ACCOUNTS, async () => show((await call<Account>('POST', 'accounts', body)).id));
        tell(fault);
        // Its desk is being opened.
        setOpened(fault === '');
    };
    return (
        <form className={`${FRAME} flex flex-wrap items-end gap-10`} onSubmit={handleSubmit(open)} aria-label="Open an account">
            <label className="grid text-soft">
                Name
                <TextField className="w-170" maxLength={40} data-name="account-name" {...register('name')} />
            </label>
            <label className="grid text-soft">
                Currency
                <TextField className="w-60" maxLength={3} data-name="account-currency" {...register('currency')} />
            </label>
            <label className="grid text-soft">
                Balance
                <TextField className="w-110 font-mono" inputMode="decimal" data-name="account-balance" {...register('balance')} />
            </label>
            <label className="grid text-soft">
                Daily loss limit
                <TextField
                    className="w-110 font-mono"
                    inputMode="decimal"
                    placeholder="2 % of it"
                    data-name="account-loss"
                    {...register('loss')}
                />
            </label>
            <Button type="submit" data-name="open-account" disabled={formState.isSubmitting || isOpened}>
                Open the account
            </Button>
        </form>
    );
}

function One({ account, tell }: { account: Account } & Told) {
    const shown = useChoices((choices) => choices.account);
    const [balance, setBalance] = useState(account.balance);
    const isShown = shown?.id === account.id;
    const reset = () =>
        ask({
            title: `Reset ${account.name}?`,
            words: WORDS.resetMeans(account.name, balance, account.currency),
            safe: 'Keep it',
            answers: [
                {
                    label: `Reset ${account.name}`,
                    name: 'reset-account',
                    act: () =>
                        void change(ACCOUNTS, async () =>
                            show((await call<Account>('POST', `accounts/${account.id}/reset`, { balance: typedNumber(balance) })).id),
                        ).then(tell),
                },
            ],
        });
    const close = () =>
        ask({
            title: `Close ${account.name}?`,
            words: WORDS.closeMeans(account.name),
            safe: 'Keep it open',
            answers: [
                {
                    label: `Close ${account.name}`,
                    name: 'close-account',
                    act: () =>
                        void change(ACCOUNTS, async () => put(await call<Account>('POST', `accounts/${account.id}/close`, {}))).then(tell),
                },
            ],
        });
    return (
        <section className={FRAME} data-account={account.id} aria-label={account.name}>
            <p className="flex items-center gap-10">
                <b>{account.name}</b>
                <span>
                    opened with{' '}
                    <span className="font-mono">
                        {account.balance} {account.currency}
                    </span>
                </span>
                {account.closed && <span className="text-soft">closed: to be read</span>}
                <span className="flex-1" />
                {isShown ? (
                    <span className="text-soft">this desk</span>
                ) : (
                    <Button tone="small" data-name={`show-${account.id}`} onClick={() => show(account.id)}>
                        {account.closed ? 'Read' : 'Show'}
                    </Button>
                )}
            </p>
            {!account.closed && (
                <>
                    <Rates account={account} tell={tell} />
                    <p className="flex items-center gap-8">
                        <label>
                            Reset balance to{' '}
                            <TextField
                                className="w-110 font-mono"
                                inputMode="decimal"
                                value={balance}
                                data-name={`balance-${account.id}`}
                                onChange={(event) => setBalance(event.target.value)}
                            />{' '}
                            {account.currency}
                        </label>
                        <Button tone="small" data-name={`reset-${account.id}`} onClick={reset}>
                            Reset
                        </Button>
                        <Button tone="small" data-name={`close-${account.id}`} onClick={close}>
                            Close the account
                        </Button>
                    </p>
                </>
            )}
        </section>
    );
}

/** What one of each currency that is traded here is worth; a contract whose currency has no rate takes no entry. */
function Rates({ account, tell }: { account: Account } & Told) {
    const contracts = useChoices((choices) => choices.contracts);
    const positions = useDesk((desk) => desk.positions);
    const traded = new Set([...contracts.map((contract) => contract.currency), ...Object.keys(account.rates)]);
    const codes = [...traded].filter((code) => code !== account.currency).sort();
    const { register, handleSubmit, formState } = useForm<Record<string, string>>({ values: account.rates as Record<string, string> });
    const save = async (typed: Record<string, string>) => {
        const rates = Object.fromEntries(Object.entries(typed).filter(([, rate]) => (rate ?? '').trim() !== ''));
        tell(await change(ACCOUNTS, async () => put(await call<Account>('PUT', `accounts/${account.id}/rates`, { rates }))));
    };
    const isOpen = Object.values(positions).some((position) => position.quantity !== 0);
    return (
        <form className="my-4 flex flex-wrap items-center gap-10" onSubmit={handleSubmit(save)} aria-label={WORDS.ratesOf(account.name)}>
            {codes.map((code) => (
                <label key={code}>
                    1 {code} ={' '}
                    <TextField
                        className="w-70 font-mono"
                        inputMode="decimal"
                        placeholder="no rate"
                        data-name={`rate-${account.id}-${code}`}
                        {...register(code)}
                    />{' '}
                    {account.currency}
                </label>
            ))}
            <Button tone="small" type="submit" disabled={!formState.isDirty} data-name={`save-rates-${account.id}`}>
                Save rates
            </Button>
            {formState.isDirty && isOpen && <span className="text-soft">{WORDS.countedAnew}</span>}
        </form>
    );
}
