<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\TestCase;
use Tests\Support\RunningDesk;

/** What only watches, or can be made anew from the journal, keeps no directory from starting: it is left out, and the log says so. */
final class DamagedRowsTest extends TestCase
{
    public function testAStartLeavesOutWhatItCannotReadAndGoesOnTrading(): void
    {
        $desk = RunningDesk::start('--seed', '3', '--paused', '--clock', RunningDesk::CLOCK);
        try {
            $trader = $desk->trader();
            $trader->steps('DULZ6', 900);
            $trader->place(['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1]);
            $stops = $trader->stops();
            $trader->steps('DULZ6', 200);
            $desk->crash();
            $journal = new \PDO("sqlite:{$desk->data}/journal.sqlite");
            $journal->exec("UPDATE checkpoints SET body = 'no JSON' WHERE name LIKE 'bars %' OR name LIKE 'day %'");
            $journal->exec("UPDATE checkpoints SET body = json_set(body, '$.bests', 'none') WHERE name = 'lines'");
            foreach (['prints', 'trail', '250', '2000'] as $i => $kind) {
                $column = $i % 2 === 0 ? 'body' : 'newest';
                self::assertGreaterThan(0, $journal->exec("UPDATE market_history SET $column = 'damaged' WHERE kind = '$kind'"));
            }
            file_put_contents("{$desk->data}/desk.checkpoint", 'damaged');
            $journal = null;
            $desk->up('--seed', '3', '--paused', '--clock', RunningDesk::CLOCK);
            self::assertSame($stops, $trader->stops());
            self::assertSame(2, $trader->position('DULZ6')['quantity']);
            $trader->steps('DULZ6', 300);
            $log = (string) file_get_contents("{$desk->data}.log").implode('', array_map(file_get_contents(...), glob("{$desk->data}/logs/*") ?: []));
            foreach (['the bars of DULZ6', "the day line of account {$trader->account}", 'a piece of what the markets had seen', 'the best of each day'] as $what) {
                self::assertStringContainsString("$what could not be read and was left out", $log);
            }
            self::assertSame(201, $trader->place(['contract' => 'DULZ6', 'side' => 'sell', 'quantity' => 1, 'kind' => 'market'])->status);
        } finally {
            $desk->stop();
        }
    }

    /** The web reads tables, what trades follows the journal: where they differ, where its end cannot be told, the start says so. */
    public function testAStartSaysWhichRowsDifferFromTheJournal(): void
    {
        $desk = RunningDesk::start('--seed', '3', '--paused', '--clock', RunningDesk::CLOCK);
        try {
            $trader = $desk->trader();
            $order = $trader->place(['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1])->body['id'];
            $desk->crash();
            $journal = new \PDO("sqlite:{$desk->data}/journal.sqlite");
            $journal->exec("UPDATE orders SET quantity = 9 WHERE id = $order; UPDATE fills SET price = price + 1 WHERE order_id = $order");
            $journal->exec("UPDATE accounts SET balance = '1.00' WHERE id = {$trader->account}");
            $journal = null;
            unlink("{$desk->data}/journal.head");
            $desk->up('--seed', '3', '--paused', '--clock', RunningDesk::CLOCK);
            $log = (string) file_get_contents("{$desk->data}.log").implode('', array_map(file_get_contents(...), glob("{$desk->data}/logs/*") ?: []));
            foreach (["orders row $order: found other", "fills of order $order: found other", "accounts row {$trader->account}: found other", 'journal.head: found none'] as $said) {
                self::assertStringContainsString($said, $log);
            }
            self::assertSame(4, substr_count($log, ': found'), $log);
            $desk->crash();
            $journal = new \PDO("sqlite:{$desk->data}/journal.sqlite");
            $journal->exec("DELETE FROM checkpoints WHERE name = 'lines'");
            $journal = null;
            [$status, $said] = $desk->failsToStart();
            self::assertNotSame(0, $status);
            self::assertStringContainsString("found no checkpoint of the venue's clock that can be read", $said);
        } finally {
            $desk->stop();
        }
    }
}
