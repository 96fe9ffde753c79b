<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Brick\Math\BigDecimal;
use Brick\Math\RoundingMode;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\Account\AccountClosed;
use Lotrik\Desk\Event\Account\AccountOpened;
use Lotrik\Desk\Event\Account\BarLifted;
use Lotrik\Desk\Event\Account\LimitsSet;
use Lotrik\Desk\Event\Account\RatesSet;
use Lotrik\Desk\Event\EventRecorder;
use Lotrik\Desk\Question\Account\AccountOpen;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Money\Currency;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;
use Lotrik\Risk\DayUse;
use Lotrik\Risk\Limits\Amount;
use Lotrik\Risk\Limits\Limits;

/**
 * Opens, closes and resets practice accounts, and sets their rates and limits. One name stands for one open account of a user, so
 * that the same wish sent twice opens nothing twice.
 */
final class Accounts
{
    /** Of one user, with those that are closed: each reset leaves one behind. */
    private const MOST = 200;

    private const NAME_LENGTH = 40;

    /** What a new account may lose in a day where nothing else is said, of its balance (common practice, no source). */
    private const LOSS_PERCENT = 2;

    /** No currency is worth so little of another, or so much. */
    private const LEAST_RATE = '0.000001';

    private const MOST_RATE = '1000000';

    private const RATES = 40;

    public function __construct(private readonly DeskState $state, private readonly EventRecorder $recorder) {}

    /**
     * @param Node                 $body   `name`, `currency`, `balance`, `rates`, and `daily_loss`; without it {@see LOSS_PERCENT} of the balance
     * @param array<string, mixed> $limits `order_limit`, `position_limit`
     *
     * @return int its number
     *
     * @throws InvalidDocument
     * @throws Refusal
     */
    public function open(int $owner, Node $body, array $limits): int
    {
        $name = trim($body->string('name', null, self::NAME_LENGTH));
        if ($name === '' || preg_match('/[\p{C}]/u', $name) === 1) {
            throw $body->fault('name', 'a name of 1 to '.self::NAME_LENGTH.' visible characters');
        }
        $currency = self::currency($body->string('currency'), $body->at('currency'));
        $balance = Amount::of($body, 'balance', $currency)->exact();
        $rates = self::rates($body, $currency);
        $loss = $body->raw('daily_loss') === null ? self::share($balance, $currency) : Amount::of($body, 'daily_loss', $currency)->exact();
        $body->done();
        $of = $this->ownedBy($owner);
        if (count($of) >= self::MOST) {
            throw self::tooManyAccounts(self::MOST);
        }
        foreach ($of as $account) {
            if ($account->name === $name && ! $this->state->isClosed($account->id)) {
                throw self::accountNameTaken($name);
            }
        }

        return $this->opened([
            'owner' => $owner, 'name' => $name, 'currency' => $currency->code, 'balance' => $balance, 'rates' => $rates,
            'daily_loss_limit' => $loss,
        ] + $limits);
    }

    /**
     * Lifts a bar that was taken over, a pause and a streak of losses, today. A limit that this account has reached itself would bar it
     * again at once: it is not lifted.
     *
     * @param list<DayUse> $uses how much of each limit of its day is used up
     * @param string       $by   who does it, by name
     *
     * @throws Refusal
     */
    public function lift(Account $account, array $uses, string $by): void
    {
        $this->mustNotBeClosed($account);
        foreach ($uses as $use) {
            if ($use->isReached()) {
                throw self::stillReached($account->name, $use->limit);
            }
        }
        $at = $this->recorder->at;
        $book = $this->state->bookOf($account->id);
        [$until, $because] = $book->entriesStopped;
        [$day, $lost] = $book->losses;
        $what = array_filter([
            $book->isBarred($at) ? "the bar for $book->barredFor" : '',
            $at < $until ? "the stop of new entries ($because)" : '',
            $lost > 0 && $day === $account->limits->day->begins($at) ? "$lost losing ".($lost === 1 ? 'trade' : 'trades in a row') : '',
        ]);
        if ($what === []) {
            throw self::nothingToLift($account->name);
        }
        $this->recorder->note(new BarLifted($account->id, $by, implode(', ', $what)));
    }

    /** @throws Refusal */
    public function close(Account $account): void
    {
        $this->mustBeFree($account);
        $this->recorder->note(new AccountClosed($account->id));
    }

    /**
     * Closes an account and opens another of the same name, currency, rates and limits. One that is barred is no way around
     * what barred it: it begins again with its next trading day.
     *
     * @param Node $body `balance`
     *
     * @return int the number of the one that goes on
     *
     * @throws InvalidDocument
     * @throws Refusal
     */
    public function reset(Account $account, Node $body): int
    {
        $balance = Amount::of($body, 'balance', $account->rates->base)->exact();
        $body->done();
        $this->mustBeFree($account);
        if ($this->state->isBarred($account->id, $this->recorder->at)) {
            throw self::barredUntilReset(
                $account->name, $this->state->bookOf($account->id)->barredUntil, $this->state->bookOf($account->id)->barredFor,
            );
        }
        if (count($this->ownedBy($account->owner)) >= self::MOST) {
            throw self::tooManyAccounts(self::MOST);
        }
        $this->recorder->note(new AccountClosed($account->id, $this->nextId()));

        return $this->opened(['balance' => $balance] + $account->document);
    }

    /**
     * @param Node $body `rates`, all of them: one that is there can be changed and not be taken away, since what was earned
     *                   in its currency counts through it
     *
     * @throws InvalidDocument
     * @throws Refusal
     */
    public function setRates(Account $account, Node $body): void
    {
        $this->mustNotBeClosed($account);
        $rates = self::rates($body, $account->rates->base);
        $body->done();
        $before = $account->document['rates'] ?? [];
        foreach (array_keys(is_array($before) ? $before : []) as $code) {
            if (! isset($rates[$code])) {
                throw InvalidDocument::at($body->at('rates')."/$code", 'nothing', 'a rate: one that is set can be changed, not taken away');
            }
        }
        if ($rates !== $before) {
            $this->recorder->note(new RatesSet($account->id, $rates));
        }
    }

    /**
     * Tightens at once; what it loosens counts from the account's next trading day.
     *
     * @param Node $body a whole document as {@see Limits} reads it
     *
     * @throws InvalidDocument
     * @throws Refusal
     */
    public function setLimits(Account $account, Node $body): void
    {
        $this->mustNotBeClosed($account);
        $asked = Limits::asked($body, $account->rates->base, fn(string $code): bool => isset($this->state->contracts[$code]));
        $now = $account->limits->and($asked);
        $now->mustFit($body);
        $isTighter = $now->toArray() === $asked->toArray();
        $next = $isTighter ? null : $asked->toArray();
        if ($now->toArray() === $account->limits->toArray() && $next === ($this->state->bookOf($account->id)->limitsNext[0] ?? null)) {
            return;
        }
        $since = $account->document['day_since'] ?? null;
        $this->recorder->note(new LimitsSet(
            $account->id, $now->toArray(), is_int($since) ? $since : null, $next,
            $isTighter ? null : $account->limits->day->ends($this->recorder->at),
        ));
    }

    /** @param array<string, mixed> $document without its number */
    private function opened(array $document): int
    {
        $id = $this->nextId();
        $document = ['id' => $id] + $document;
        $this->recorder->note(new AccountOpened($id, $document, ...$this->takenOver(Account::fromArray($document))));

        return $id;
    }

    /**
     * What keeps its owner from entries today, in whichever account it came about: no other account is a way around it.
     *
     * @return array{barred: array{int, string, string}|null, stopped: array{int, string}|null, losses: array{int, int}|null}
     */
    private function takenOver(Account $new): array
    {
        $barred = $stopped = $losses = null;
        $at = $this->recorder->at;
        foreach ($this->ownedBy($new->owner) as $id => $account) {
            if ($this->state->isBarred($id, $at) && $this->state->bookOf($id)->barredUntil > ($barred[0] ?? 0)) {
                $barred = [$this->state->bookOf($id)->barredUntil, "account $id is barred", $this->state->bookOf($id)->barredFor];
            }
            [$until, $because] = $this->state->bookOf($id)->entriesStopped;
            if ($until > max($at, $stopped[0] ?? 0)) {
                $stopped = [$until, $because];
            }
            [$day, $lost] = $this->state->bookOf($id)->losses;
            if ($day === $account->limits->day->begins($at) && $lost > ($losses[1] ?? 0)) {
                $losses = [$new->limits->day->begins($at), $lost];
            }
        }

        return ['barred' => $barred, 'stopped' => $stopped, 'losses' => $losses];
    }

    /** In whole minor units, and one at the least. */
    private static function share(string $balance, Currency $currency): string
    {
        $unit = BigDecimal::ofUnscaledValue(1, $currency->minorUnit);
        $share = BigDecimal::of($balance)->multipliedBy(self::LOSS_PERCENT)->dividedBy(100, $currency->minorUnit, RoundingMode::DOWN);

        return (string) BigDecimal::max($share, $unit);
    }

    /** @return array<int, Account> those that are closed among them */
    private function ownedBy(int $owner): array
    {
        return array_filter($this->state->accounts, static fn(Account $account): bool => $account->owner === $owner);
    }

    private function nextId(): int
    {
        return max([0, ...array_keys($this->state->accounts)]) + 1;
    }

    private function mustNotBeClosed(Account $account): void
    {
        if ($this->state->isClosed($account->id)) {
            throw AccountOpen::accountClosed($account->name);
        }
    }

    private function mustBeFree(Account $account): void
    {
        $this->mustNotBeClosed($account);
        $left = [];
        foreach ($this->state->holdings as $code => $holdings) {
            $holding = $holdings[$account->id] ?? null;
            if ($holding === null) {
                continue;
            }
            $lots = $holding->position->lots;
            $orders = count($holding->working);
            if ($lots !== 0 || $orders > 0) {
                $left[] = "$code ".implode(' and ', [
                    ...($lots === 0 ? [] : [abs($lots).(abs($lots) === 1 ? ' lot open' : ' lots open')]),
                    ...($orders === 0 ? [] : [$orders.($orders === 1 ? ' order working' : ' orders working')]),
                ]);
            }
        }
        if ($left !== []) {
            throw self::accountInUse($account->name, implode(', ', $left));
        }
    }

    private static function currency(string $code, string $pointer): Currency
    {
        try {
            return Currency::of($code);
        } catch (\DomainException) {
            throw InvalidDocument::at($pointer, InvalidDocument::show($code), 'a currency code of ISO 4217, such as EUR');
        }
    }

    /** @return array<string, string> by currency */
    private static function rates(Node $body, Currency $base): array
    {
        $raw = $body->raw('rates') ?? [];
        if (! is_array($raw) || count($raw) > self::RATES) {
            throw $body->fault('rates', 'an object of at most '.self::RATES.' rates by currency, such as {"USD": "0.92"}');
        }
        $rates = [];
        foreach ($raw as $code => $rate) {
            $pointer = $body->at('rates').'/'.$code;
            $of = self::currency((string) $code, $pointer);
            if ($of->code === $base->code) {
                throw InvalidDocument::at($pointer, InvalidDocument::show($rate), "no rate: {$base->code} is the account's own currency");
            }
            $decimal = is_string($rate) && preg_match('/^\d{1,7}(\.\d{1,12})?$/D', $rate) === 1
                ? BigDecimal::of($rate)
                : BigDecimal::zero();
            if ($decimal->isLessThan(self::LEAST_RATE) || $decimal->isGreaterThan(self::MOST_RATE)) {
                throw InvalidDocument::at(
                    $pointer,
                    InvalidDocument::show($rate),
                    "how much of {$base->code} one {$of->code} is worth, as a "
                        .'decimal from '.self::LEAST_RATE.' to '.self::MOST_RATE.' such as "0.92"',
                );
            }
            assert(is_string($rate));
            $rates[$of->code] = $rate;
        }

        return $rates;
    }

    private static function stillReached(string $name, string $limit): Refusal
    {
        return new Refusal(
            RefusalCode::Barred, "$limit of $name is reached by its own trades: nothing lifts it before its next trading day",
        );
    }

    private static function nothingToLift(string $name): Refusal
    {
        return new Refusal(RefusalCode::NothingToChange, "nothing keeps $name from new entries: there is no bar, pause or streak to lift");
    }

    /** @param string $left such as "DULZ6 2 lots open and 3 orders working" */
    private static function accountInUse(string $name, string $left): Refusal
    {
        return new Refusal(RefusalCode::AccountInUse, "$name is not flat: $left; flatten it first, and cancel what works");
    }

    private static function accountNameTaken(string $name): Refusal
    {
        return new Refusal(
            RefusalCode::AccountNameTaken, "there is an open account \"$name\" already; give this one another name", '/name',
        );
    }

    private static function tooManyAccounts(int $most): Refusal
    {
        return new Refusal(RefusalCode::TooManyAccounts, "a user has at most $most accounts, with those that are closed");
    }

    /**
     * @param int    $until ms since 1970 UTC
     * @param string $limit that was reached
     */
    private static function barredUntilReset(string $name, int $until, string $limit): Refusal
    {
        $time = gmdate('Y-m-d H:i', intdiv($until, 1000));

        return new Refusal(
            RefusalCode::Barred, "$limit of $name was reached: it can be reset from $time UTC on, with its next trading day",
        );
    }
}
