<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A marked level as the web keeps it: a price, or a band from low to high, in ticks.
 *
 * @property int    $id
 * @property int    $user_id
 * @property string $contract
 * @property int    $low
 * @property int    $high
 * @property string $name
 * @property string $tone
 * @property int    $since    ms since 1970 UTC by the market's clock
 */
final class LevelRow extends Model
{
    /** Washes of colour that tell levels apart; they mean nothing by themselves. */
    public const TONES = ['sand', 'moss', 'slate', 'clay'];

    protected $table = 'marked_levels';

    protected $fillable = ['user_id', 'contract', 'low', 'high', 'name', 'tone', 'since'];
}
