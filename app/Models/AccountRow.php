<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\HasMany;
use Lotrik\Desk\Account\Account;
use Lotrik\Refusal\Refusal;
use Lotrik\Risk\Limits\ContractLimits;

/**
 * A trading account, as the engine wrote it.
 *
 * @property int                   $id
 * @property int                   $owner_id number of the user whose it is
 * @property string                $name
 * @property string                $currency ISO 4217 code of the base currency
 * @property string                $balance  exact decimal in the base currency
 * @property array<string, string> $rates    currency code → exact rate to the base currency
 * @property int                   $order_limit      lots
 * @property int                   $position_limit   lots
 * @property string                $daily_loss_limit exact decimal in the base currency
 * @property bool                  $closed           it is only read
 */
final class AccountRow extends JournalModel
{
    protected $table = 'accounts';

    protected $primaryKey = 'id';

    /** @var array<string, string> */
    protected $casts = ['rates' => 'array', 'closed' => 'boolean'];

    /** @return HasMany<OrderRow, $this> */
    public function orders(): HasMany
    {
        return $this->hasMany(OrderRow::class, 'account_id');
    }

    /** @return HasMany<FillRow, $this> */
    public function fills(): HasMany
    {
        return $this->hasMany(FillRow::class, 'account_id');
    }

    /** @return HasMany<JournalRow, $this> */
    public function journal(): HasMany
    {
        return $this->hasMany(JournalRow::class, 'account');
    }

    /**
     * @param mixed $number as it was sent
     *
     * @throws Refusal
     */
    public static function named(mixed $number): self
    {
        if (! is_int($number) && ! (is_string($number) && ctype_digit($number))) {
            throw Refusal::invalid('account', $number, 'the number of one of your accounts');
        }

        return self::query()->find((int) $number) ?? throw Refusal::unknownAccount($number);
    }

    public function account(): Account
    {
        return Account::fromArray([
            'id' => $this->id, 'owner' => $this->owner_id, 'name' => $this->name, 'currency' => $this->currency,
            'balance' => $this->balance, 'rates' => $this->rates,
            'order_limit' => $this->order_limit, 'position_limit' => $this->position_limit, 'daily_loss_limit' => $this->daily_loss_limit,
        ]);
    }

    /** @return array<string, int|string|bool> the columns of its row */
    public static function columns(Account $account, bool $isClosed): array
    {
        $document = $account->document;

        return [
            'id' => $account->id, 'owner_id' => $account->owner, 'name' => $account->name, 'currency' => $account->rates->base->code,
            'balance' => (string) $document['balance'],
            'rates' => Json::of((object) ($document['rates'] ?? [])),
            'order_limit' => $account->limits->each->orderLots ?? ContractLimits::MOST,
            'position_limit' => $account->limits->each->positionLots ?? ContractLimits::MOST,
            'daily_loss_limit' => $account->limits->dailyLoss->exact(), 'closed' => $isClosed,
        ];
    }
}
