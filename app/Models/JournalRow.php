<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Lotrik\Desk\Event\EventCodec;
use Lotrik\Desk\Event\Recorded;

/**
 * An event of the journal. Each row's hash covers the one before it.
 *
 * @property int                  $sequence
 * @property int                  $at         ms since 1970 UTC
 * @property int                  $step       of the engine when it was committed
 * @property int|null             $account
 * @property string|null          $contract
 * @property string               $type
 * @property int                  $version
 * @property string|null          $command_id the client's id of the command that it came from
 * @property string               $words      what it says to a person
 * @property array<string, mixed> $body
 * @property string               $previous_hash
 * @property string               $hash
 */
final class JournalRow extends JournalModel
{
    public const FIRST_HASH = '0000000000000000000000000000000000000000000000000000000000000000';

    private const HASHED = ['sequence', 'at', 'step', 'account', 'contract', 'type', 'version', 'command_id', 'words', 'body'];

    protected $table = 'journal';

    protected $primaryKey = 'sequence';

    /** @var array<string, string> */
    protected $casts = ['body' => 'array'];

    /** @return BelongsTo<AccountRow, $this> */
    public function owner(): BelongsTo
    {
        return $this->belongsTo(AccountRow::class, 'account');
    }

    /**
     * @param string $before hash of the row before it
     *
     * @return array<string, int|string|null> the columns of its row
     */
    public static function columns(Recorded $recorded, int $step, string $before): array
    {
        $row = [
            'sequence' => $recorded->sequence, 'at' => $recorded->at, 'step' => $step, 'account' => $recorded->account,
            'contract' => $recorded->contract,
            'type' => EventCodec::type($recorded->event), 'version' => EventCodec::version($recorded->event),
            'command_id' => $recorded->commandId,
            'words' => $recorded->words, 'body' => EventCodec::encode($recorded->event),
        ];

        return $row + ['previous_hash' => $before, 'hash' => self::hash($before, $row)];
    }

    /** @param array<string, mixed> $row its columns as they stand in the table */
    public static function hash(string $before, array $row): string
    {
        return hash('sha256', $before."\n".Json::of(array_map(static fn(string $column): mixed => $row[$column], self::HASHED)));
    }
}
