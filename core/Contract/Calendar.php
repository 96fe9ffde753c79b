<?php

declare(strict_types=1);

namespace Lotrik\Contract;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;

/**
 * The days on which a venue trades otherwise than its sessions say: shut, or closed early. A date is that on which the session
 * opens, in the contract's own zone.
 *
 * @phpstan-type CalendarDay array{date: string, name: string, close: string|null, contracts: list<string>}
 */
final readonly class Calendar
{
    public const FORMAT = 'lotrik.calendar/1';

    /** That somebody may set; each contract's practice session may come to them. */
    private const MOST_DAYS = 1_000;

    private const MOST_PRACTICE = 1_000;

    /** @param list<CalendarDay> $days by date */
    private function __construct(public string $name, private array $days) {}

    public static function none(): self
    {
        return new self('', []);
    }

    /**
     * @param array<array-key, mixed> $document
     *
     * @throws InvalidDocument
     */
    public static function fromArray(array $document): self
    {
        return self::fromNode(Node::of($document));
    }

    /** @throws InvalidDocument naming what was wrong by its JSON pointer */
    public static function fromNode(Node $node): self
    {
        if ($node->raw('format') !== self::FORMAT) {
            throw $node->fault('format', '"'.self::FORMAT.'"');
        }
        $name = $node->optionalString('name', 60) ?? '';
        $items = $node->list('days');
        if (count($items) > self::MOST_DAYS + self::MOST_PRACTICE) {
            throw $node->fault('days', 'at most '.self::MOST_DAYS.' days');
        }
        $days = $seen = [];
        foreach ($items as $i => $item) {
            $day = self::day(Node::of($item, $node->at('days')."/$i"));
            foreach ($day['contracts'] === [] ? [''] : $day['contracts'] as $of) {
                if (isset($seen[$day['date']][$of])) {
                    throw InvalidDocument::at(
                        $node->at('days')."/$i/date", "\"{$day['date']}\" again", 'each date once for the same contracts',
                    );
                }
                $seen[$day['date']][$of] = true;
            }
            $days[] = $day;
        }
        $node->done();
        usort($days, static fn(array $a, array $b): int => $a['date'] <=> $b['date']);

        return new self($name, $days);
    }

    /**
     * @return CalendarDay
     *
     * @throws InvalidDocument
     */
    private static function day(Node $node): array
    {
        $date = $node->string('date');
        $parsed = \DateTimeImmutable::createFromFormat('!Y-m-d', $date);
        if ($parsed === false || $parsed->format('Y-m-d') !== $date) {
            throw $node->fault('date', 'a date such as "2026-12-25"');
        }
        $close = $node->optionalString('close');
        if ($close !== null && preg_match('/^([01]\d|2[0-3]):[0-5]\d$/', $close) !== 1) {
            throw $node->fault('close', 'a time of day such as "13:00", or nothing where it does not open');
        }
        $contracts = [];
        foreach ($node->raw('contracts') === null ? [] : $node->list('contracts') as $i => $contract) {
            $contracts[] = is_string($contract) && preg_match('/^[A-Z][A-Z0-9]{0,10}$/', $contract) === 1
                ? $contract
                : throw InvalidDocument::at(
                    $node->at('contracts')."/$i", InvalidDocument::show($contract), 'a contract such as "DULZ6", or its root',
                );
        }
        $day = ['date' => $date, 'name' => $node->optionalString('name', 60) ?? '', 'close' => $close, 'contracts' => $contracts];
        $node->done();

        return $day;
    }

    /**
     * The days of one contract: what names it counts before what names its root, and that before what names none.
     *
     * @return array<string, string|null> date → when it closes, null where it does not open
     */
    public function of(string $code, string $root): array
    {
        $found = $rank = [];
        foreach ($this->days as $day) {
            $here = match (true) {
                in_array($code, $day['contracts'], true) => 3,
                in_array($root, $day['contracts'], true) => 2,
                $day['contracts'] === [] => 1,
                default => 0,
            };
            if ($here > ($rank[$day['date']] ?? 0)) {
                [$rank[$day['date']], $found[$day['date']]] = [$here, $day['close']];
            }
        }

        return $found;
    }

    /**
     * @param array<string, Contract> $contracts that are listed, by code
     *
     * @throws InvalidDocument where a day names what is not listed, or closes at a time outside a session: it would do nothing; or
     *                         where there are too many
     */
    public function mustFit(array $contracts): void
    {
        $listed = array_map(static fn(Contract $of): string => $of->root(), $contracts);
        if (count($this->days) > self::MOST_DAYS) {
            throw InvalidDocument::at('/days', count($this->days).' days', 'at most '.self::MOST_DAYS);
        }
        foreach ($this->days as $day) {
            foreach ($day['contracts'] as $name) {
                if (! isset($listed[$name]) && ! in_array($name, $listed, true)) {
                    throw InvalidDocument::at('/days', "\"$name\" on {$day['date']}", 'a contract that is listed, or its root');
                }
            }
            $close = $day['close'];
            foreach ($close === null ? [] : $contracts as $code => $contract) {
                $isMeant = $day['contracts'] === [] || in_array($code, $day['contracts'], true)
                    || in_array($listed[$code], $day['contracts'], true);
                if ($isMeant && ! $contract->session->hasWithin((string) $close)) {
                    throw InvalidDocument::at(
                        '/days',
                        "a close at $close on {$day['date']}",
                        "a time within the session of $code, {$contract->session->open} to {$contract->session->close} "
                            ."{$contract->session->zone}",
                    );
                }
            }
        }
    }

    /**
     * The same with one contract's day closed at another time; null leaves it as the sessions say.
     *
     * @param string $name of what closes it: an earlier day of that name goes
     */
    public function closing(string $code, string $date, ?string $close, string $name): self
    {
        $days = array_values(array_filter(
            $this->days,
            static fn(array $day): bool => $day['contracts'] !== [$code] || ($day['date'] !== $date && $day['name'] !== $name),
        ));
        if ($close !== null) {
            $days[] = ['date' => $date, 'name' => $name, 'close' => $close, 'contracts' => [$code]];
        }
        usort($days, static fn(array $a, array $b): int => $a['date'] <=> $b['date']);

        return new self($this->name, $days);
    }

    /** @return array{format: string, name?: string, days: list<array<string, mixed>>} the document */
    public function toArray(): array
    {
        $named = static fn(string $name): array => $name === '' ? [] : ['name' => $name];

        return ['format' => self::FORMAT] + $named($this->name) + ['days' => array_map(static fn(array $day): array => [
            'date' => $day['date'],
        ] + $named($day['name']) + ['close' => $day['close']] + ($day['contracts'] === [] ? [] : ['contracts' => $day['contracts']]), $this->days)];
    }
}
