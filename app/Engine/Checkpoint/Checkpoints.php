<?php

declare(strict_types=1);

namespace App\Engine\Checkpoint;

use App\Engine\Journal\Journal;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Floor;
use Lotrik\Venue\Market;
use Lotrik\Venue\MarketFeed;
use Lotrik\Watching\MemoryPiece;

/**
 * Where the engine goes on after a stop. The truth is the journal; a checkpoint of the desk only saves reading all of
 * it, and is used only by the build that wrote it. A market's checkpoint is the truth about the market: its noise is
 * not journaled. It is saved in the same transaction as the desk's events that belong to it.
 */
final class Checkpoints
{
    /** The desk is packed whole, so only every so many events. */
    private const DESK_EVERY = 2_000;

    private int $deskAt;

    /** @var array<string, int> contract → the newest bar when its bars were last saved */
    private array $barsAt = [];

    public function __construct(private readonly int $seed, private readonly ?int $clockStart, int $sequence = 0)
    {
        $this->deskAt = $sequence;
    }

    /**
     * @param list<string> $contracts whose markets are to be saved
     *
     * @return array<string, array{sequence: int, body: string}> by name
     */
    public function of(Floor $floor, array $contracts): array
    {
        $sequence = $floor->desk->state->sequence;
        $checkpoints = ['lines' => ['sequence' => $sequence, 'body' => self::json($floor->packLines() + ['seed' => $this->seed, 'clock' => $this->clockStart])]];
        foreach ($contracts as $contract) {
            $checkpoints += $this->bars($floor, $contract, $sequence);
            $checkpoints["market $contract"] = ['sequence' => $sequence, 'body' => self::json($floor->packMarket($contract))];
        }
        if ($sequence - $this->deskAt >= self::DESK_EVERY) {
            $this->deskAt = $sequence;
            $checkpoints['desk'] = ['sequence' => $sequence, 'body' => serialize($floor->desk->state)];
        }

        return $checkpoints;
    }

    /**
     * What the markets remember beyond their checkpoint: belongs to it, and is saved with it.
     *
     * @param list<string> $contracts
     *
     * @return array<string, list<MemoryPiece>> by contract
     */
    public static function memory(Floor $floor, array $contracts): array
    {
        $pieces = [];
        foreach ($contracts as $contract) {
            $pieces[$contract] = $floor->desk->quote($contract)->memory->pieces();
        }

        return $pieces;
    }

    /**
     * The bars that have closed change only when the next one begins, so they are not written with every order.
     *
     * @return array<string, array{sequence: int, body: string}>
     */
    private function bars(Floor $floor, string $contract, int $sequence): array
    {
        $bars = $floor->desk->quote($contract)->bars;
        if ($bars->newest() === ($this->barsAt[$contract] ?? 0)) {
            return [];
        }
        $this->barsAt[$contract] = $bars->newest();

        return ["bars $contract" => ['sequence' => $sequence, 'body' => self::json($bars->packEarlier())]];
    }

    /** The desk's state: its checkpoint where this build wrote one, and the journal's events after it. */
    public static function desk(Journal $journal, string $build): DeskState
    {
        $checkpoint = $journal->checkpoint('desk');
        $state = $checkpoint !== null && $checkpoint['build'] === $build ? unserialize($checkpoint['body']) : null;
        $state = $state instanceof DeskState ? $state : new DeskState();
        foreach ($journal->after($state->sequence) as $row) {
            $state->apply($row['event'], $row['at']);
            if ($state->sequence !== $row['sequence']) {
                throw new \UnexpectedValueException("the journal has a gap before sequence {$row['sequence']}");
            }
        }

        return $state;
    }

    /** @return array{step: int, toVenue: list<array{int, string, list<mixed>}>, toDesk: list<array{int, string, list<mixed>}>, seed: int, clock: int|null}|null */
    public static function lines(Journal $journal): ?array
    {
        $checkpoint = $journal->checkpoint('lines');

        return $checkpoint === null ? null : json_decode($checkpoint['body'], true, 512, JSON_THROW_ON_ERROR);
    }

    public static function restore(Floor $floor, Journal $journal, string $contract, MarketFeed $feed): bool
    {
        $checkpoint = $journal->checkpoint("market $contract");
        if ($checkpoint === null) {
            return false;
        }
        $packed = json_decode($checkpoint['body'], true, 512, JSON_THROW_ON_ERROR);
        $floor->restoreMarket(Market::unpack($contract, $packed, $feed), $packed);
        $bars = $journal->checkpoint("bars $contract");
        if ($bars !== null) {
            $floor->desk->quote($contract)->bars->restore(json_decode($bars['body'], true, 512, JSON_THROW_ON_ERROR), null);
        }
        $floor->desk->quote($contract)->memory->restore($journal->memory($contract));

        return true;
    }

    /** @param array<mixed> $value */
    private static function json(array $value): string
    {
        return json_encode($value, JSON_THROW_ON_ERROR);
    }
}
