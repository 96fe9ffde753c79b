<?php

declare(strict_types=1);

namespace Tests\Browser;

use PHPUnit\Framework\TestCase;
use Tests\Support\PageModule;

/** In which order, and how often, the parts of the page's picture are drawn; over a clock that is set by hand. */
final class TurnsTest extends TestCase
{
    /** A window whose timers are run by `until(ms)`; `log` says what was drawn when. */
    private const STAGE = <<<'JS'
        let now = 0, timers = [], log = [], id = 0, alive = true;
        Object.defineProperty(globalThis, 'performance', {value: {now: () => now}});
        const stage = {
            setTimeout: (f, ms) => (timers.push({id: ++id, at: now + ms, f: alive ? f : () => {}}), id),
            clearTimeout: (one) => { timers = timers.filter((t) => t.id !== one); },
        };
        const until = (to) => { for (;;) { const t = timers.filter((t) => t.at <= to).sort((a, b) => a.at - b.at)[0]; if (!t) break; timers = timers.filter((o) => o !== t); now = Math.max(now, t.at); t.f(); } now = to; };
        const every = {fast: 45, other: 45, slow: 200, clock: 0};
        const turns = new page.DrawingTurns((name) => ({every: every[name], draw: () => log.push([name, Math.round(now)])}), () => stage);
        const told = () => { console.log(JSON.stringify(log)); log = []; };
        JS;

    /** @return list<mixed> */
    private static function play(string $script): array
    {
        return PageModule::run('stream/drawingTurns.ts', self::STAGE.$script);
    }

    public function testEachPartHasAFrameOfItsOwnAndWhatWasAskedFirstIsDrawnFirst(): void
    {
        [$drawn] = self::play('for (const name of ["fast", "other", "clock", "fast"]) turns.ask(name); until(500); told();');
        self::assertSame(['fast', 'other', 'clock'], array_column($drawn, 0));
        [$first, $second, $third] = array_column($drawn, 1);
        self::assertSame(0, $first);
        self::assertGreaterThanOrEqual(16, min($second - $first, $third - $second));
    }

    public function testAPartThatChangesAllTheTimeIsDrawnAsOftenAsItMayAndKeepsNoOtherWaiting(): void
    {
        [$drawn] = self::play('for (let t = 0; t < 1000; t += 5) { until(t); for (const name of ["fast", "other", "slow"]) turns.ask(name); } told();');
        $times = static fn(string $name): array => array_column(array_filter($drawn, static fn(array $d): bool => $d[0] === $name), 1);
        foreach (['fast' => 45, 'other' => 45, 'slow' => 200] as $name => $every) {
            $gaps = array_map(static fn(int $a, int $b): int => $b - $a, array_slice($times($name), 0, -1), array_slice($times($name), 1));
            self::assertGreaterThanOrEqual($every - 1, min($gaps), $name);
            self::assertLessThanOrEqual($every + 45, max($gaps), "$name is not kept waiting");
        }
    }

    public function testWhatWasDrawnAltogetherIsNotDrawnAgain(): void
    {
        [$drawn, $after] = self::play('turns.ask("fast"); turns.ask("other"); turns.clear(); until(300); told(); turns.ask("fast"); until(400); told();');
        self::assertSame([], $drawn);
        self::assertSame(['fast'], array_column($after, 0));
    }

    public function testATimerThatWentWithItsWindowIsSetAnew(): void
    {
        [$lost, $after] = self::play('alive = false; turns.ask("fast"); until(250); turns.ask("fast"); until(290); told(); alive = true; until(1000); turns.ask("fast"); until(1100); told();');
        self::assertSame([], $lost);
        self::assertSame(['fast'], array_column($after, 0));
    }
}
