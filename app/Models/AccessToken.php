<?php

declare(strict_types=1);

namespace App\Models;

use Laravel\Sanctum\PersonalAccessToken;

/** A bearer token. When it was last used is noted once a minute: no order waits for a write that says so. */
final class AccessToken extends PersonalAccessToken
{
    protected $table = 'personal_access_tokens';

    /** @param array<string, mixed> $options */
    public function save(array $options = []): bool
    {
        $before = $this->getOriginal('last_used_at');
        if (
            $this->exists
            && array_keys($this->getDirty()) === ['last_used_at']
            && $before !== null
            && $before->isAfter(now()->subMinute())
        ) {
            return true;
        }

        return parent::save($options);
    }
}
