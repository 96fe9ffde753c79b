<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;

/**
 * What all markets remember of one kind since the commit before, see MemoryPieces.
 *
 * @property string             $kind
 * @property int                $id     rising
 * @property string             $newest JSON, contract → number of its newest item in here
 * @property string             $body   bytes
 */
final class MarketHistoryRow extends JournalModel
{
    protected $table = 'market_history';

    protected $primaryKey = 'id';

    /** @return Builder<self> */
    public static function ofKind(string $connection, string $kind): Builder
    {
        $rows = self::on($connection);
        $rows->where('kind', $kind);

        return $rows;
    }
}
