<?php

declare(strict_types=1);

namespace App\Engine\Operation;

use App\Engine\View\BookView;
use Lotrik\Desk\TradingSystem;
use Lotrik\Watching\Bars\BarKind;

/** The book of a contract, and what is remembered of its market. */
final readonly class MarketMemory
{
    /** An answer stays small. */
    private const MAX_PRINTS = 1500;

    /** Levels that are looked for in what is remembered within a turn: a millisecond each. */
    private const AT_ONCE = 3;

    public function __construct(private TradingSystem $system) {}

    /** @return array<string, mixed> */
    public function book(Asked $asked): array
    {
        $contract = $asked->contract();

        return BookView::of(
            $this->system->market($contract->code)->venue,
            $this->system->desk->quote($contract->code), $contract, $asked->int('levels', 20),
            $this->system->desk->state->sequence,
        );
    }

    /** @return array<string, mixed> */
    public function prints(Asked $asked): array
    {
        return ['prints' => array_slice($this->system->desk->quote($asked->contract()->code)->prints->all(), -self::MAX_PRINTS)];
    }

    /** @return array<string, mixed> */
    public function depthHistory(Asked $asked, int $at): array
    {
        return $this->watching($asked, $at)->depthHistory($asked->int('step'), $asked->int('after'), $asked->int('until', PHP_INT_MAX));
    }

    /** @return array<string, mixed> */
    public function tape(Asked $asked, int $at): array
    {
        return $this->watching($asked, $at)->tape($asked->int('most'));
    }

    /** @return array<string, mixed> */
    public function bars(Asked $asked, int $at): array
    {
        return $this->watching($asked, $at)->bars(BarKind::from($asked->text('by')), $asked->int('size'), $asked->int('most'));
    }

    /** @return array<string, mixed> */
    public function levels(Asked $asked, int $at): array
    {
        return $this->watching($asked, $at)->levels($asked->list('levels'), $asked->int('off', 1));
    }

    /**
     * Levels that nobody has asked for lately are looked for first, some at a time.
     *
     * @param \Closure(): array{status: int, body: array<array-key, mixed>} $answer
     *
     * @return \Closure|LevelsJob the answer itself where it is at hand
     */
    public function looked(Asked $asked, \Closure $answer): \Closure|LevelsJob
    {
        $unknown = $this->watching($asked, 0)->unknown($asked->list('levels'));

        return count($unknown) > self::AT_ONCE
            ? new LevelsJob($this->system->desk->quote($asked->contract()->code)->levels, $unknown, $answer)
            : $answer;
    }

    private function watching(Asked $asked, int $at): Watching
    {
        $contract = $asked->contract();

        return new Watching($contract, $this->system->desk->quote($contract->code), $at);
    }
}
