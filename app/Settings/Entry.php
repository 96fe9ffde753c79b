<?php

declare(strict_types=1);

namespace App\Settings;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Order\OrderKind;
use Lotrik\Order\TimeInForce;

/** How the trader enters: sizes and defaults for each contract, the quick row, and what is asked about first. */
final class Entry implements SettingsDocument
{
    public const FORMAT = 'lotrik.entry/1';

    private const QUICK = ['buy-market', 'sell-market', 'join-bid', 'join-ask', 'take-ask', 'take-bid'];

    private const MAX_LOTS = 10_000;

    public function byDefault(): array
    {
        return [
            'format' => self::FORMAT, 'lots_row' => [1, 2, 3, 5, 10], 'quick_row' => ['buy-market', 'sell-market', 'join-bid', 'join-ask'],
            'confirm_over' => null, 'double_press_ms' => 150, 'idle_minutes' => 10, 'act_on_press' => false, 'buttons_at_once' => false,
            'cut_to_band' => false,
            'contracts' => [],
        ];
    }

    public function read(Node $document, array $others): array
    {
        if ($document->string('format') !== self::FORMAT) {
            throw $document->fault('format', '"'.self::FORMAT.'"');
        }
        $quick = $document->list('quick_row');
        foreach ($quick as $i => $name) {
            if (! in_array($name, self::QUICK, true) || count(array_keys($quick, $name, true)) > 1) {
                throw InvalidDocument::at(
                    $document->at('quick_row')."/$i",
                    InvalidDocument::show($name),
                    'one of '.implode(', ', self::QUICK).', each once',
                );
            }
        }
        $read = [
            'format' => self::FORMAT, 'lots_row' => self::row($document), 'quick_row' => $quick,
            'confirm_over' => $document->optionalInt('confirm_over', 1, self::MAX_LOTS),
            'double_press_ms' => $document->int('double_press_ms', 0, 2000),
            'idle_minutes' => $document->int('idle_minutes', 1, 240),
            'act_on_press' => $document->bool('act_on_press', false),
            'buttons_at_once' => $document->bool('buttons_at_once', false),
            'cut_to_band' => $document->bool('cut_to_band', false),
            'contracts' => [],
        ];
        $contracts = $document->raw('contracts') === [] ? [] : $document->raw('contracts');
        foreach (is_array($contracts) ? array_keys($contracts) : throw $document->fault('contracts', 'an object') as $code) {
            $of = $document->node('contracts')->node((string) $code);
            $read['contracts'][$code] = array_filter([
                'lots_row' => $of->raw('lots_row') === null ? null : self::row($of), 'lots' => $of->optionalInt('lots', 1, self::MAX_LOTS),
                'plan' => $of->optionalInt('plan', 0, PHP_INT_MAX), 'tif' => $of->raw('tif') === null ? null : self::duration($of),
                'kind' => $of->raw('kind') === null ? null : $of->enum('kind', OrderKind::class)->value,
            ], static fn(mixed $value): bool => $value !== null);
            $of->done();
        }
        $document->done();

        return $read;
    }

    private static function duration(Node $of): string
    {
        $tif = $of->enum('tif', TimeInForce::class);

        return in_array($tif, [TimeInForce::Day, TimeInForce::GoodTillCancelled], true)
            ? $tif->value
            : throw $of->fault('tif', 'day or gtc: the others belong to one order');
    }

    /** @return list<int> */
    private static function row(Node $of): array
    {
        $row = $of->list('lots_row');
        if (count($row) !== 5) {
            throw InvalidDocument::at($of->at('lots_row'), count($row).' sizes', 'five, one for each key');
        }
        $lots = [];
        foreach ($row as $i => $size) {
            if (! is_int($size) || $size < 1 || $size > self::MAX_LOTS) {
                throw InvalidDocument::at(
                    $of->at('lots_row')."/$i",
                    InvalidDocument::show($size),
                    'a whole number from 1 to '.self::MAX_LOTS,
                );
            }
            $lots[] = $size;
        }

        return $lots;
    }
}
