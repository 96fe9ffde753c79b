<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\MortalEngine;

/**
 * Kills at random moments while two accounts trade in three contracts, with delays of 10 to 500 ms each way: before the
 * write and after it, nothing acknowledged is lost, desk and venue agree, every lot has its stop, and nothing waits for
 * ever. LOTRIK_KILLS says how many (40 by default), LOTRIK_SEED where they begin.
 */
final class KillsTest extends TestCase
{
    private const KILLS_A_RUN = 8;

    private string $folder = '';

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/lotrik-kills-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        exec('rm -rf '.escapeshellarg($this->folder));
    }

    public function testNothingPartsOverAKill(): void
    {
        exec(
            'LOTRIK_BUILD=mortal '.escapeshellarg(PHP_BINARY).' '.escapeshellarg(dirname(__DIR__, 2).'/artisan').' lotrik:prepare --data='
                .escapeshellarg("$this->folder/empty").' 2>&1',
            $out,
            $status,
        );
        self::assertSame(0, $status, implode("\n", $out));
        $kills = (int) (getenv('LOTRIK_KILLS') ?: 40);
        $first = (int) (getenv('LOTRIK_SEED') ?: 1);
        $fills = 0;
        for ($seed = $first, $left = $kills; $left > 0; $seed++, $left -= self::KILLS_A_RUN) {
            $delay = 1 + (new Randomizer(new Mt19937($seed)))->getInt(0, 49);
            mkdir("$this->folder/$seed");
            $engine = new MortalEngine("$this->folder/$seed", "$this->folder/empty/journal.sqlite", $seed, $delay);
            $dice = new Randomizer(new Mt19937($seed));
            for ($kill = 0; $kill < min(self::KILLS_A_RUN, $left); $kill++) {
                for ($turns = $dice->getInt(1, 40); $turns > 0; $turns--) {
                    $engine->work();
                    $engine->commit();
                }
                if ($dice->getInt(0, 1) === 0) {
                    // Killed before the write: what this turn did is gone, and nobody was told of it.
                    $engine->work();
                }
                $engine->killed();
                if ($dice->getInt(0, 2) === 0) {
                    self::assertNull($engine->fault(), "seed $seed, delay {$delay}0 ms, after kill ".($kill + 1));
                    $engine->commit();
                }
            }
            self::assertNull($engine->fault(), "seed $seed, delay {$delay}0 ms");
            $fills += $engine->system()->desk->state->lastFill;
            exec('rm -rf '.escapeshellarg("$this->folder/$seed"));
        }
        self::assertGreaterThan($kills, $fills, 'the engines must have traded');
    }
}
