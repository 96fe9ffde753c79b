<?php

declare(strict_types=1);

namespace App\Demo\Scene;

use App\Demo\KestrelBay;
use App\Engine\Journal\EngineConnection;
use App\Engine\Journal\Journal;
use App\Models\JournalRow;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Desk;
use Lotrik\Desk\Event\EventCodec;
use Lotrik\Desk\Event\Recorded;
use Lotrik\Desk\Event\Venue\ContractListed;
use Lotrik\Watching\MarketMemory;
use Lotrik\Watching\MemoryPiece;

/**
 * Puts a scene into an empty data directory, as an engine would have left it: its times end now, its contracts are those
 * that are listed today, and its events are written as a journal of this directory's own.
 *
 * @phpstan-import-type Moment from Scene
 */
final class SceneLoader
{
    /** Times move by whole minutes, so that bars and columns begin where they would. */
    private const MINUTE = 60_000;

    /** Milliseconds since 1970, written as a number: nothing else in events and checkpoints is as large. */
    private const TIME = '/(?<=[:\[,])1[6-9]\d{11}(?=[,}\]])/';

    /** Fewer rows are written faster; larger ones come back more slowly between an engine's turns. */
    private const PIECES_A_ROW = 4;

    private readonly int $later;

    /** @var Moment that the scene ends at */
    private readonly array $moment;

    /** @var array<string, Contract> the scene's code → the contract of today */
    private array $contracts = [];

    /** @var array<string, string> the scene's code → today's */
    private array $codes = [];

    private readonly Desk $desk;

    /** @param int $now ms since 1970 UTC */
    public function __construct(private readonly Scene $scene, private readonly int $now)
    {
        $later = (int) floor(($now - $scene->moments[0]['at']) / self::MINUTE) * self::MINUTE;
        $before = array_filter($scene->moments, static fn(array $moment): bool => $moment['at'] + $later <= $now);
        [$this->later, $this->moment] = [$later, end($before) ?: $scene->moments[0]];
        foreach (KestrelBay::contracts(new \DateTimeImmutable('@'.intdiv($now, 1000))) as $i => [$contract]) {
            $code = $scene->contracts[$i] ?? throw new \RuntimeException("the scene has no contract for {$contract->code}; make it anew");
            $this->contracts[$code] = $contract;
            $this->codes[$code] = $contract->code;
        }
        $this->desk = new Desk();
    }

    /** @return bool false where the directory has a journal already */
    public function load(string $build): bool
    {
        // Without the note of how far the journal goes: a kill before the end must not leave one that says more than there is.
        $journal = new Journal(null);
        if (JournalRow::on(EngineConnection::NAME)->exists()) {
            return false;
        }
        JournalRow::on(EngineConnection::NAME)->getConnection()->transaction(function () use ($journal, $build): void {
            $none = static fn(): ?int => null;
            [$state, $step] = [$this->desk->state, $this->moment['step']];
            $journal->commitTurns($this->turns(), $state, $step, $none, [], [], $build);
            $journal->commit([], $state, $step, $none, $this->checkpoints($state->sequence), [], $build);
            foreach ($this->memory() as $pieces) {
                $journal->commit([], $state, $step, $none, [], $pieces, $build);
            }
        });

        return true;
    }

    /** @return list<array{contract: string, low: int, high: int, name: string, tone: string, since: int}> marked levels that belong to it */
    public function levels(): array
    {
        return array_map(fn(array $level): array => [
            'contract' => $this->codes[$level[0]], 'low' => $level[1], 'high' => $level[2], 'name' => $level[3], 'tone' => $level[4],
            'since' => $level[5] + $this->later,
        ], $this->scene->levels);
    }

    /** @return \Generator<list<Recorded>> */
    private function turns(): \Generator
    {
        $recorder = $this->desk->recorder();
        foreach ($this->scene->turns as $turn) {
            foreach ($turn as [$at, $commandId, $type, $version, $body]) {
                [$recorder->at, $recorder->commandId] = [$at + $this->later, $commandId];
                $event = EventCodec::decode($type, $version, $this->today($body), $this->desk->state);
                $recorder->note($event instanceof ContractListed ? $this->listed($event) : $event);
            }
            yield $this->desk->events();
        }
    }

    private function listed(ContractListed $event): ContractListed
    {
        foreach ($this->contracts as $contract) {
            if ($contract->code === $event->contract) {
                return new ContractListed($contract->code, $contract->toArray());
            }
        }

        throw new \RuntimeException("the scene lists {$event->contract}, which the demo does not; make it anew");
    }

    /** @return array<string, array{sequence: int, body: string}> */
    private function checkpoints(int $sequence): array
    {
        $checkpoints = ['lines' => ['sequence' => $sequence, 'body' => json_encode([
            'step' => $this->moment['step'], 'seed' => $this->scene->seed, 'clock' => null, 'at' => $this->moment['at'] + $this->later,
            'practice' => [],
        ], JSON_THROW_ON_ERROR)]];
        foreach ($this->codes as $code => $today) {
            $market = json_decode($this->today($this->moment['markets'][$code]), true, 512, JSON_THROW_ON_ERROR);
            // All of the morning is of the trading day that it is now.
            $market['quote'][4]['began'] = $this->contracts[$code]->session->dayBegan($this->now);
            $body = (string) gzcompress(json_encode($market, JSON_THROW_ON_ERROR), 1);
            $checkpoints["market $today"] = ['sequence' => $sequence, 'body' => $body];
            $checkpoints["bars $today"] = ['sequence' => $sequence, 'body' => $this->today($this->moment['bars'][$code])];
        }

        return $checkpoints;
    }

    /** @return \Generator<array<string, list<MemoryPiece>>> what was remembered of one kind at about the same time, by contract */
    private function memory(): \Generator
    {
        $together = [];
        $kindBefore = '';
        foreach ($this->scene->memory as [$code, $kind, $number, $body]) {
            $today = $this->codes[$code];
            if ($number > $this->moment['newest'][$kind][$code]) {
                continue;
            }
            if ($kind !== $kindBefore || count($together[$today] ?? []) === self::PIECES_A_ROW) {
                yield $together;
                $together = [];
            }
            $kindBefore = $kind;
            $together[$today][] = MarketMemory::later(new MemoryPiece($kind, $number, $body), $this->later);
        }
        yield $together;
    }

    private function today(string $json): string
    {
        return (string) preg_replace_callback(
            self::TIME,
            fn(array $found): string => (string) ((int) $found[0] + $this->later),
            strtr($json, $this->codes),
        );
    }
}
