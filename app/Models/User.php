<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Foundation\Auth\User as Authenticatable;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\Hash;
use Laravel\Sanctum\HasApiTokens;

/**
 * @property int    $id
 * @property string $name
 * @property string $email
 * @property string $password its hash
 * @property bool   $demo
 * @property bool   $owns_desk may do what concerns everybody: steer the practice market, set the calendar, lift a bar
 *
 * @property-read \Illuminate\Database\Eloquent\Collection<int, AccountRow> $accounts
 */
final class User extends Authenticatable
{
    use HasApiTokens;

    protected $fillable = ['name', 'email', 'password', 'demo'];

    protected $hidden = ['password', 'remember_token'];

    /** @var array<string, string> */
    protected $casts = ['password' => 'hashed', 'demo' => 'bool', 'owns_desk' => 'bool'];

    protected static function booted(): void
    {
        self::creating(static function (self $user): void {
            // Whoever comes first to a desk owns it.
            $user->owns_desk = self::query()->doesntExist();
        });
    }

    /** @return HasMany<AccountRow, $this> the trading accounts, in the order in which they were opened */
    public function accounts(): HasMany
    {
        $accounts = $this->hasMany(AccountRow::class, 'owner_id');
        $accounts->orderBy('id');

        return $accounts;
    }

    /** The hash of a password that nobody knows, made as everybody's are. */
    public static function nobodysPassword(): string
    {
        return Cache::rememberForever(
            'nobody '.config('hashing.bcrypt.rounds'),
            static fn(): string => Hash::make(bin2hex(random_bytes(16))),
        );
    }
}
