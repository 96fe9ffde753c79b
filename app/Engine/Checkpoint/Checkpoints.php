<?php

declare(strict_types=1);

namespace App\Engine\Checkpoint;

use App\Engine\Journal\Dropped;
use App\Engine\Journal\Journal;
use App\Engine\Journal\JournalDamaged;
use Lotrik\Desk\TradingSystem;
use Lotrik\Risk\DayBest;
use Lotrik\Risk\DayLine;
use Lotrik\Venue\MarketFeed;
use Lotrik\Venue\Simulated\Market;
use Lotrik\Watching\MemoryPiece;

/**
 * Where the markets go on after a stop. A market's checkpoint is the truth about the market: its noise is not journaled.
 * It is saved in the same transaction as the desk's events that belong to it, with all that is under way between the two.
 *
 * @phpstan-import-type PackedBest from DayBest
 * @phpstan-import-type PackedDayLine from DayLine
 */
final class Checkpoints
{
    /** Steps after which a market is saved whatever has happened: it goes back no farther than that when the engine is killed. */
    private const EVERY = 100;

    /** Markets that are saved for that in one turn. Each takes a millisecond, and orders wait for all of them. */
    private const AT_ONCE = 2;

    /** @var array<string, int> contract → step at which its market was saved last */
    private array $savedAt = [];

    /** @var array<string, int> contract → the newest bar when its bars were last saved */
    private array $barsAt = [];

    /** @var array<string, string> name → checksum of what was last saved under it */
    private array $saved = [];

    public function __construct(private readonly int $seed, private readonly ?int $clockStart) {}

    /** @return list<string> contracts whose markets have gone on for long enough to be saved, the longest first: not all at once */
    public function due(TradingSystem $system): array
    {
        $due = [];
        foreach (array_keys($system->markets()) as $contract) {
            $saved = $this->savedAt[$contract] ?? 0;
            if ($system->steps() - $saved >= self::EVERY) {
                $due[$contract] = $saved;
            }
        }
        asort($due);

        return array_slice(array_keys($due), 0, self::AT_ONCE);
    }

    /**
     * @param list<string>         $contracts whose markets are to be saved
     * @param int                  $at        the clock, ms since 1970 UTC
     * @param array<string, mixed> $practice  how the market was steered
     *
     * @return array<string, array{sequence: int, body: string}> by name
     */
    public function of(TradingSystem $system, array $contracts, int $at, array $practice): array
    {
        $sequence = $system->desk->state->sequence;
        $checkpoints = ['lines' => [
            'sequence' => $sequence,
            'body' => self::json([
                'step' => $system->steps(), 'seed' => $this->seed, 'clock' => $this->clockStart, 'at' => $at, 'practice' => $practice,
                'bests' => $system->desk->lossWatch()->packBests(),
            ]),
        ]];
        foreach ($system->desk->lossWatch()->takeLines() as $account => $line) {
            $checkpoints["day $account"] = ['sequence' => $sequence, 'body' => self::json($line)];
        }
        foreach ($contracts as $contract) {
            $this->savedAt[$contract] = $system->steps();
            $checkpoints += $this->bars($system, $contract, $sequence);
            $body = self::json($system->packMarket($contract));
            // A market that stands, or is shut, need not be written again and again.
            if (($this->saved[$contract] ?? null) !== $sum = md5($body)) {
                $this->saved[$contract] = $sum;
                $checkpoints["market $contract"] = ['sequence' => $sequence, 'body' => (string) gzcompress($body, 1)];
            }
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
    public static function memory(TradingSystem $system, array $contracts): array
    {
        $pieces = [];
        foreach ($contracts as $contract) {
            $pieces[$contract] = $system->desk->quote($contract)->memory->pieces();
        }

        return $pieces;
    }

    /**
     * The bars that have closed change only when the next one begins, so they are not written with every order.
     *
     * @return array<string, array{sequence: int, body: string}>
     */
    private function bars(TradingSystem $system, string $contract, int $sequence): array
    {
        $bars = $system->desk->quote($contract)->bars;
        if ($bars->newest() === ($this->barsAt[$contract] ?? 0)) {
            return [];
        }
        $this->barsAt[$contract] = $bars->newest();

        return ["bars $contract" => ['sequence' => $sequence, 'body' => self::json($bars->packEarlier())]];
    }

    /**
     * @return array{step: int, seed: int, clock: int|null, at?: int, practice?: array<string, mixed>, bests?: array<int, PackedBest>,
     *     toVenue?: list<array{int, string, list<mixed>}>, toDesk?: list<array{int, string, list<mixed>}>}|null
     */
    public static function lines(Journal $journal): ?array
    {
        $checkpoint = $journal->checkpoint('lines');

        $lines = $checkpoint === null ? null : json_decode($checkpoint['body'], true);
        if ($checkpoint !== null && ! is_int($lines['step'] ?? null)) {
            throw JournalDamaged::lines();
        }

        return $lines;
    }

    /** @param array{step: int, toVenue?: list<array{int, string, list<mixed>}>, toDesk?: list<array{int, string, list<mixed>}>} $lines */
    public static function restore(TradingSystem $system, Journal $journal, string $contract, MarketFeed $feed, array $lines): bool
    {
        $checkpoint = $journal->checkpoint("market $contract");
        if ($checkpoint === null) {
            return false;
        }
        try {
            self::unpack($system, $journal, $contract, $feed, $lines, $checkpoint['body']);
        } catch (\Exception|\TypeError|\ValueError) {
            throw JournalDamaged::market($contract);
        }

        return true;
    }

    /** @param array{step: int, toVenue?: list<array{int, string, list<mixed>}>, toDesk?: list<array{int, string, list<mixed>}>} $lines */
    private static function unpack(
        TradingSystem $system,
        Journal $journal,
        string $contract,
        MarketFeed $feed,
        array $lines,
        string $body,
    ): void {
        // Older builds did not compress it, and kept what was under way in one place for all markets.
        $body = str_starts_with($body, '{') ? $body : (string) @gzuncompress($body);
        $packed = json_decode($body, true, 512, JSON_THROW_ON_ERROR);
        foreach (['toVenue', 'toDesk'] as $line) {
            $packed[$line] ??= array_values(array_map(
                static fn(array $item): array => [$item[0] - $lines['step'], $item[2]],
                array_filter($lines[$line] ?? [], static fn(array $item): bool => $item[1] === $contract),
            ));
        }
        $system->restoreMarket(Market::unpack($contract, $packed, $feed), $packed);
        $bars = $journal->checkpoint("bars $contract");
        if ($bars !== null) {
            Dropped::unless("the bars of $contract", static fn() => $system->desk->quote($contract)->bars->restore(
                json_decode($bars['body'], true, 512, JSON_THROW_ON_ERROR),
                null,
            ));
        }
    }

    /** How the day of each account had gone. */
    public static function restoreDays(TradingSystem $system, Journal $journal): void
    {
        foreach (array_keys($system->desk->state->accounts) as $account) {
            $checkpoint = $journal->checkpoint("day $account");
            if ($checkpoint !== null) {
                Dropped::unless("the day line of account $account", static function () use ($system, $account, $checkpoint): void {
                    /** @var PackedDayLine $line */
                    $line = json_decode($checkpoint['body'], true, 512, JSON_THROW_ON_ERROR);
                    $system->desk->lossWatch()->restoreLine($account, $line);
                });
            }
        }
    }

    /** What the markets had seen, once they are all restored. */
    public static function restoreMemory(TradingSystem $system, Journal $journal): void
    {
        foreach ($journal->memory() as $contract => $piece) {
            Dropped::unless("a piece of what $contract had seen", static fn() => $system->desk->quote($contract)->memory->restore($piece));
        }
        foreach (array_keys($system->markets()) as $contract) {
            Dropped::unless("what $contract had seen", static fn() => $system->desk->quote($contract)->memory->restored());
        }
    }

    /** @param array<mixed> $value */
    private static function json(array $value): string
    {
        return json_encode($value, JSON_THROW_ON_ERROR);
    }
}
