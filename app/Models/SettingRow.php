<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * One settings document of one user.
 *
 * @property string               $name
 * @property array<string, mixed> $document
 */
final class SettingRow extends Model
{
    protected $table = 'settings';

    protected $fillable = ['user_id', 'name', 'document'];

    /** @var array<string, string> */
    protected $casts = ['document' => 'array'];
}
