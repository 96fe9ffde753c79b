<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A link that signs its user in once. Only the token's hash is kept.
 *
 * @property int    $user_id
 * @property string $token
 */
final class EntryLinkRow extends Model
{
    protected $table = 'entry_links';

    protected $fillable = ['user_id', 'token'];

    /** @return string the token that belongs into the link */
    public static function issue(User $user): string
    {
        $token = bin2hex(random_bytes(24));
        self::create(['user_id' => $user->id, 'token' => hash('sha256', $token)]);

        return $token;
    }

    public static function isOpen(string $token): bool
    {
        return self::query()->where('token', hash('sha256', $token))->whereNull('used_at')->exists();
    }

    /** Takes the link: null where it is unknown or was used. One statement decides, so that two visitors cannot both win. */
    public static function redeem(string $token): ?User
    {
        $link = self::query()->where('token', hash('sha256', $token))->whereNull('used_at');
        $user = $link->value('user_id');

        return (clone $link)->update(['used_at' => now()]) === 1 ? User::find($user) : null;
    }
}
