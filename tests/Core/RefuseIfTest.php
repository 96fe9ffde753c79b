<?php

declare(strict_types=1);

namespace Tests\Core;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** Whoever asks for a change may say what it is not to do; whether it would is judged as the change is made. */
final class RefuseIfTest extends TestCase
{
    private TestSystem $system;

    protected function setUp(): void
    {
        $this->system = new TestSystem();
    }

    private static function at(int $ticks): string
    {
        return TestSystem::contract()->price(TestSystem::START + $ticks);
    }

    /** @param array<string, mixed> $order @return int its number */
    private function enter(array $order): int
    {
        return (int) $this->system->handle('place', ['contract' => TestSystem::CODE] + $order)->body['order'];
    }

    /** @return iterable<string, array{array<string, mixed>, array<string, mixed>, bool}> order, change, whether it can open more than before */
    public static function changes(): iterable
    {
        $buy = ['side' => 'buy', 'quantity' => 2];
        $limit = ['kind' => 'limit', 'price' => self::at(-6)] + $buy;
        $stop = ['kind' => 'stop', 'trigger' => self::at(6)] + $buy;
        $mit = ['kind' => 'mit', 'trigger' => self::at(-6)] + $buy;
        $stopLimit = ['kind' => 'stop-limit', 'trigger' => self::at(6), 'price' => self::at(8)] + $buy;
        yield 'a limit nearer' => [$limit, ['price' => self::at(-5)], true];
        yield 'a limit away' => [$limit, ['price' => self::at(-7)], false];
        yield 'more lots' => [$limit, ['quantity' => 3], true];
        yield 'fewer lots' => [$limit, ['quantity' => 1], false];
        yield 'away with more lots' => [$limit, ['price' => self::at(-7), 'quantity' => 3], true];
        yield 'nearer with fewer lots' => [$limit, ['price' => self::at(-5), 'quantity' => 1], true];
        yield 'another duration' => [$limit, ['tif' => 'gtc'], false];
        yield 'a stop nearer' => [$stop, ['trigger' => self::at(5)], true];
        yield 'a stop away' => [$stop, ['trigger' => self::at(7)], false];
        yield 'one that is touched, nearer' => [$mit, ['trigger' => self::at(-5)], true];
        yield 'one that is touched, away' => [$mit, ['trigger' => self::at(-7)], false];
        yield 'a stop-limit nearer, its limit along' => [$stopLimit, ['trigger' => self::at(5)], true];
        yield 'a stop-limit away, its limit along' => [$stopLimit, ['trigger' => self::at(7)], false];
        yield 'a stop-limit that pays more' => [$stopLimit, ['price' => self::at(9)], true];
        yield 'a stop-limit that pays less' => [$stopLimit, ['price' => self::at(7)], false];
        $sell = ['side' => 'sell', 'quantity' => 2, 'kind' => 'limit', 'price' => self::at(6)];
        yield 'a sell limit nearer' => [$sell, ['price' => self::at(5)], true];
        yield 'a sell limit away' => [$sell, ['price' => self::at(7)], false];
        $sellStop = ['side' => 'sell', 'quantity' => 2, 'kind' => 'stop', 'trigger' => self::at(-6)];
        yield 'a sell stop nearer' => [$sellStop, ['trigger' => self::at(-5)], true];
        yield 'a sell stop away' => [$sellStop, ['trigger' => self::at(-7)], false];
    }

    /**
     * @param array<string, mixed> $order
     * @param array<string, mixed> $change
     */
    #[DataProvider('changes')]
    public function testAnEntryThatComesNearerOrGrowsOpens(array $order, array $change, bool $opens): void
    {
        $id = $this->enter($order);
        $sequence = $this->system->system->desk->state->sequence;
        $asked = ['order' => $id, 'refuse_if' => ['would_open']] + $change;
        if ($opens) {
            self::assertSame('would-open', $this->system->refusal('modify', $asked)->problem->value);
            self::assertSame($sequence + 1, $this->system->system->desk->state->sequence, 'the refusal alone was noted');
            unset($asked['refuse_if']);
        }
        self::assertSame(['order' => $id], $this->system->handle('modify', $asked)->body, 'and it is done where nobody minds');
    }

    /** A price may be beyond the market as it is typed, and before it as it arrives, or the other way round. */
    public function testWhetherItTradesIsJudgedAsTheChangeIsMade(): void
    {
        $id = $this->enter(['side' => 'buy', 'quantity' => 2, 'kind' => 'limit', 'price' => self::at(-12)]);
        $change = ['order' => $id, 'price' => self::at(-3), 'refuse_if' => ['would_trade']];
        $this->system->push(-5);
        $refusal = $this->system->refusal('modify', $change);
        self::assertSame('would-trade', $refusal->problem->value);
        self::assertStringStartsWith("order $id trades at once, the market is at ", $refusal->getMessage());
        self::assertSame(0, $this->system->holding()->position->lots);
        $this->system->push(5);
        $this->system->handle('modify', $change);
        self::assertSame(0, $this->system->holding()->position->lots, 'it rests');
    }

    /** Exits protect or close: however near they come, nothing more opens. */
    public function testAnExitOpensNothing(): void
    {
        $this->enter(['side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => TestSystem::plan()]);
        foreach ($this->system->holding()->working as $exit) {
            $field = $exit->kind->hasTrigger() ? 'trigger' : 'price';
            $level = TestSystem::contract()->price((int) $exit->level() + ($exit->kind->hasTrigger() ? 1 : -1));
            self::assertSame(
                ['order' => $exit->id],
                $this->system->handle('modify', ['order' => $exit->id, $field => $level, 'refuse_if' => ['would_open']])->body,
            );
        }
    }

    public function testWhatItCannotRefuseIsNamed(): void
    {
        $id = $this->enter(['side' => 'buy', 'quantity' => 2, 'kind' => 'limit', 'price' => self::at(-6)]);
        foreach (['would_trade', ['would-trade'], [true]] as $odd) {
            $refusal = $this->system->refusal('modify', ['order' => $id, 'quantity' => 1, 'refuse_if' => $odd]);
            self::assertSame(['invalid', '/refuse_if'], [$refusal->problem->value, $refusal->pointer]);
        }
    }
}
