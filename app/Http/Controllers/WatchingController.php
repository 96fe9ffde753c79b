<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Page;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Lotrik\Document\Moment;
use Lotrik\Refusal\Refusal;
use Lotrik\Watching\BarKind;

/** Looking back on a contract's market: depth history, time and sales, bars. */
final class WatchingController extends ApiController
{
    private const MAX_PRINTS = 1000;

    private const MAX_BARS = 1000;

    /** What size a bar may have: seconds, prints, lots or ticks. */
    private const MAX_SIZE = ['time' => 3600, 'trades' => 10_000, 'volume' => 100_000, 'range' => 1_000];

    public function depth(Request $request, string $code): JsonResponse
    {
        return $this->about($request, $code, 'depth-history', [
            'step' => $this->within($request, 'step', 250, 1, 15_000),
            'after' => self::moment($request, 'after') ?? 0, 'until' => self::moment($request, 'until') ?? PHP_INT_MAX,
        ]);
    }

    public function tape(Request $request, string $code): JsonResponse
    {
        return $this->about($request, $code, 'tape', ['most' => $this->within($request, 'most', 200, 1, self::MAX_PRINTS)]);
    }

    public function bars(Request $request, string $code): JsonResponse
    {
        $by = $request->query('by', 'time');
        $kind = is_string($by) ? BarKind::tryFrom($by) : null;
        if ($kind === null) {
            throw Refusal::invalid('by', $by, implode(', ', array_column(BarKind::cases(), 'value')));
        }

        return $this->about($request, $code, 'bars', [
            'by' => $kind->value, 'size' => $this->within($request, 'size', 60, 1, self::MAX_SIZE[$kind->value]),
            'most' => $this->within($request, 'most', 300, 1, self::MAX_BARS),
        ]);
    }

    /** @param array<string, mixed> $body */
    private function about(Request $request, string $code, string $op, array $body): JsonResponse
    {
        ContractController::find($code);

        return $this->ask($request, $op, $this->account($request, $request->query('account')), ['contract' => $code] + $body);
    }

    private function within(Request $request, string $name, int $default, int $least, int $most): int
    {
        $number = Page::number($request, $name) ?? $default;
        if ($number < $least || $number > $most) {
            throw Refusal::invalid($name, $number, "$least to $most");
        }

        return $number;
    }

    /** @return int|null ms since 1970 UTC */
    private static function moment(Request $request, string $name): ?int
    {
        $text = $request->query($name);
        if ($text === null) {
            return null;
        }
        $moment = is_string($text) ? Moment::parse($text) : null;
        if ($moment === null) {
            throw Refusal::invalid($name, $text, 'an ISO 8601 time such as 2026-11-02T09:30:00.000Z');
        }

        return intdiv($moment, 1000);
    }
}
