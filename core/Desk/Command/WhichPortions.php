<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;

/** The portions of an entry that a command is about: `portion`, one number, or `portions`, several; left out it is all of them. */
final readonly class WhichPortions
{
    private const HIGHEST = 20;

    /** @param list<int>|null $numbers null is all of them */
    private function __construct(public ?array $numbers) {}

    /** @throws InvalidDocument */
    public static function in(Node $body): self
    {
        $one = $body->optionalInt('portion', 1, self::HIGHEST);
        if ($body->raw('portions') === null) {
            return new self($one === null ? null : [$one]);
        }
        if ($one !== null) {
            throw $body->fault('portions', 'either portion or portions');
        }
        $numbers = [];
        foreach ($body->list('portions') as $i => $number) {
            if (! is_int($number) || $number < 1 || $number > self::HIGHEST || in_array($number, $numbers, true)) {
                $pointer = $body->at('portions')."/$i";

                throw InvalidDocument::at(
                    $pointer, InvalidDocument::show($number), 'the number of a portion from 1 to '.self::HIGHEST.', each once',
                );
            }
            $numbers[] = $number;
        }

        return $numbers === [] ? throw $body->fault('portions', 'at least one; left out it is all of them') : new self($numbers);
    }

    public function have(int $number): bool
    {
        return $this->numbers === null || in_array($number, $this->numbers, true);
    }

    /** Such as "portions 1, 2 and 4"; empty where it is all of them. */
    public function words(): string
    {
        $numbers = $this->numbers ?? [];
        $last = array_pop($numbers);
        if ($last === null) {
            return '';
        }

        return $numbers === [] ? "portion $last" : 'portions '.implode(', ', $numbers)." and $last";
    }
}
