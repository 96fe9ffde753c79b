<?php

declare(strict_types=1);

namespace App\Models;

/**
 * Where a market goes on after a stop.
 *
 * @property string $name     such as "market DULZ6"
 * @property int    $sequence of the journal when it was made
 * @property string $build    that made it
 * @property string $body     bytes
 */
final class CheckpointRow extends JournalModel
{
    protected $table = 'checkpoints';

    protected $primaryKey = 'name';

    protected $keyType = 'string';
}
