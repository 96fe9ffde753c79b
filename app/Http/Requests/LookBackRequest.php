<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Lotrik\Document\Moment;
use Lotrik\Refusal\Refusal;
use Lotrik\Watching\Bars\BarKind;

/** How much of a contract's past is asked for: columns of depth, prints, or bars. */
final class LookBackRequest extends ApiRequest
{
    private const MAX_ROWS = 1_000;

    /** What size a bar may have: seconds, prints, lots or ticks. */
    private const MAX_SIZE = ['time' => 3_600, 'trades' => 10_000, 'volume' => 100_000, 'range' => 1_000];

    /** @return array{step: int, after: int, until: int} ms; times since 1970 UTC */
    public function depth(): array
    {
        return [
            'step' => $this->whole('step', 250, 1, 15_000), 'after' => $this->moment('after') ?? 0,
            'until' => $this->moment('until') ?? PHP_INT_MAX,
        ];
    }

    /** @return array{most: int} */
    public function prints(): array
    {
        return ['most' => $this->whole('most', 200, 1, self::MAX_ROWS)];
    }

    /** @return array{by: string, size: int, most: int} */
    public function bars(): array
    {
        $by = $this->query('by', BarKind::Time->value);
        $kind = (is_string($by) ? BarKind::tryFrom($by) : null) ?? throw Refusal::invalid(
            'by',
            $by,
            implode(', ', array_column(BarKind::cases(), 'value')),
        );

        return [
            'by' => $kind->value, 'size' => $this->whole('size', 60, 1, self::MAX_SIZE[$kind->value]),
            'most' => $this->whole('most', 300, 1, self::MAX_ROWS),
        ];
    }

    /** @return int|null ms since 1970 UTC */
    private function moment(string $name): ?int
    {
        $text = $this->query($name);
        if ($text === null) {
            return null;
        }
        $moment = is_string($text) ? Moment::parse($text) : null;

        return $moment === null
            ? throw Refusal::invalid($name, $text, 'an ISO 8601 time such as 2026-11-02T09:30:00.000Z')
            : intdiv($moment, 1000);
    }
}
