<?php

declare(strict_types=1);

namespace App\Engine\Journal;

use App\Models\MarketHistoryRow;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Collection;
use Lotrik\Watching\MarketMemory;
use Lotrik\Watching\MemoryPiece;

/**
 * The table of what the markets remember: prints and depth history. Rows go when no contract needs anything in them any
 * more. At a start what the markets go on with is read first, and the rest in chunks.
 */
final class MarketHistory
{
    /** Whatever a contract that hardly trades would still need. */
    private const MAX_ROWS = 50_000;

    private const FORGETS_EVERY = 100;

    /** Packed; some ms of work. */
    private const BYTES_AT_ONCE = 32_768;

    /** @var array<string, array<string, int>> kind → contract → number of its newest item */
    private array $newest = [];

    /** @var array<string, int> kind → rows with a lower id have not been read */
    private array $unreadBelow = [];

    private int $id;

    private int $saves = 0;

    /** @param string $connection that may write */
    public function __construct(private readonly string $connection)
    {
        $this->id = (int) MarketHistoryRow::on($connection)->max('id');
    }

    /** @param array<string, list<MemoryPiece>> $memory by contract; within a transaction */
    public function save(array $memory): void
    {
        $rows = [];
        foreach (MemoryPieces::of($memory) as $kind => $pieces) {
            $rows[] = ['kind' => $kind, 'id' => ++$this->id, 'newest' => $pieces->newest(), 'body' => Bytes::of($pieces->body)];
        }
        MarketHistoryRow::on($this->connection)->insert($rows);
        foreach ($memory as $contract => $pieces) {
            foreach ($pieces as $piece) {
                $this->newest[$piece->kind][$contract] = $piece->number;
            }
        }
        if (++$this->saves % self::FORGETS_EVERY === 0) {
            array_map($this->forget(...), array_keys($this->newest));
        }
    }

    /**
     * What the markets go on with, of each kind in the order in which it was made.
     *
     * @return \Generator<string, MemoryPiece> contract → piece
     */
    public function recent(): \Generator
    {
        foreach (MarketMemory::kinds() as $kind) {
            $from = $this->firstNeeded($kind);
            foreach (MarketHistoryRow::ofKind($this->connection, $kind)->where('id', '>=', $from)->orderBy('id')->pluck('body') as $body) {
                yield from $this->needed($kind, (string) $body);
            }
            $this->unreadBelow[$kind] = $from;
        }
    }

    /**
     * More of what is older, newest first: so many rows, or fewer where they are large.
     *
     * @return list<array{string, MemoryPiece}>|null contract and piece; null where nothing is left to be read
     */
    public function older(int $rows): ?array
    {
        foreach ($this->unreadBelow as $kind => $below) {
            $pieces = [];
            $of = MarketHistoryRow::ofKind($this->connection, (string) $kind)->toBase()->where('id', '<', $below)->orderByDesc('id');
            $sizes = $of->clone()->limit($rows)->selectRaw('id, length(body) as bytes')->pluck('bytes', 'id');
            $found = $of->limit(self::within($sizes))->pluck('body', 'id');
            foreach ($found as $id => $body) {
                $this->unreadBelow[$kind] = (int) $id;
                foreach ($this->needed((string) $kind, (string) $body) as $contract => $piece) {
                    $pieces[] = [$contract, $piece];
                }
            }
            if ($found->isNotEmpty()) {
                return $pieces;
            }
            unset($this->unreadBelow[$kind]);
        }

        return null;
    }

    /**
     * How many of these rows are brought back at once.
     *
     * @param Collection<array-key, mixed> $sizes of each, in bytes
     */
    private static function within(Collection $sizes): int
    {
        $sum = $count = 0;
        foreach ($sizes as $bytes) {
            $sum += (int) $bytes;
            if ($count > 0 && $sum > self::BYTES_AT_ONCE) {
                break;
            }
            $count++;
        }

        return $count;
    }

    /** The id from which on each contract finds what it needs to go on; how far each of them has come is noted on the way. */
    private function firstNeeded(string $kind): int
    {
        $newest = $done = [];
        $from = PHP_INT_MAX;
        foreach ($this->newestNumbers(MarketHistoryRow::ofKind($this->connection, $kind)->toBase()->orderByDesc('id')) as $id => $numbers) {
            foreach ($numbers as $contract => $number) {
                $newest[$contract] ??= $number;
                if (! isset($done[$contract])) {
                    $from = min($from, (int) $id);
                }
                if ($number <= $newest[$contract] - MarketMemory::neededAtOnce($kind)) {
                    $done[$contract] = true;
                }
            }
        }
        $this->newest[$kind] = $newest;

        return $from;
    }

    /** @return \Generator<string, MemoryPiece> contract → piece, of a row */
    private function needed(string $kind, string $body): \Generator
    {
        try {
            foreach (MemoryPieces::pieces($kind, $body) as $contract => $piece) {
                if ($piece->number > ($this->newest[$kind][$contract] ?? 0) - MarketMemory::kept($kind)) {
                    yield $contract => $piece;
                }
            }
        } catch (\UnexpectedValueException|\ValueError|\ErrorException $fault) {
            Dropped::say("a piece of what the markets had seen ($kind)", $fault);
        }
    }

    /** The oldest rows of a kind, as far as nothing in them is needed; a few at a time. */
    private function forget(string $kind): void
    {
        $until = null;
        $oldest = MarketHistoryRow::ofKind($this->connection, $kind)->toBase()->orderBy('id')->limit(3 * self::FORGETS_EVERY);
        foreach ($this->newestNumbers($oldest) as $id => $newest) {
            if (! $this->isGone($kind, $newest) && (int) $id > $this->id - self::MAX_ROWS * count($this->newest)) {
                break;
            }
            $until = (int) $id;
        }
        if ($until !== null) {
            MarketHistoryRow::ofKind($this->connection, $kind)->where('id', '<=', $until)->delete();
        }
    }

    /** @param array<string, int> $newest contract → number of its newest item in a row */
    private function isGone(string $kind, array $newest): bool
    {
        foreach ($newest as $contract => $number) {
            if ($number > ($this->newest[$kind][$contract] ?? 0) - MarketMemory::kept($kind)) {
                return false;
            }
        }

        return true;
    }

    /**
     * Without a model for each: at a start they are all looked through.
     *
     * @return \Generator<int, array<string, int>> id → contract → number of its newest item in that row
     */
    private function newestNumbers(Builder $rows): \Generator
    {
        foreach ($rows->pluck('newest', 'id') as $id => $newest) {
            $numbers = json_decode((string) $newest, true, 2);
            if (is_array($numbers)) {
                yield (int) $id => array_map(intval(...), $numbers);
            } else {
                Dropped::say('a piece of what the markets had seen', new \UnexpectedValueException("row $id names no contracts"));
            }
        }
    }
}
