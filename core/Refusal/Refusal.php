<?php

declare(strict_types=1);

namespace Lotrik\Refusal;

use Lotrik\Document\InvalidDocument;
use Lotrik\ExitPlan\InvalidPlan;

/**
 * A command that is not taken: a code for programs, words that say what would be right, the field. The words of what several places
 * refuse are written here; those of a rule or a command stand beside it.
 */
final class Refusal extends \DomainException
{
    /** @param array<string, mixed> $facts further members of the problem, such as the lots that would be unprotected */
    public function __construct(
        public readonly RefusalCode $problem,
        string $words,
        public readonly ?string $pointer = null,
        public readonly array $facts = [],
    ) {
        parent::__construct($words);
    }

    /** @return array{code: string, detail: string, pointer: string|null} */
    public function toArray(): array
    {
        return ['code' => $this->problem->value, 'detail' => $this->getMessage(), 'pointer' => $this->pointer] + $this->facts;
    }

    /** @param array<string, mixed> $problem as toArray() wrote it */
    public static function fromArray(array $problem): self
    {
        $facts = array_diff_key($problem, ['code' => 1, 'detail' => 1, 'pointer' => 1]);
        [$code, $words, $pointer] = [$problem['code'] ?? null, $problem['detail'] ?? null, $problem['pointer'] ?? null];

        return new self(
            RefusalCode::tryFrom(is_string($code) ? $code : '') ?? RefusalCode::Fault,
            is_string($words) ? $words : '',
            is_string($pointer) ? $pointer : null,
            $facts,
        );
    }

    /** @param string $field a field or query parameter of the request itself */
    public static function invalid(string $field, mixed $found, string $expected): self
    {
        return new self(RefusalCode::Invalid, "$field: found ".InvalidDocument::show($found).", expected $expected", "/$field");
    }

    public static function unreadable(InvalidDocument $fault): self
    {
        return new self(RefusalCode::Invalid, $fault->getMessage(), $fault->pointer);
    }

    public static function priceOffGrid(\DomainException $fault, string $pointer): self
    {
        return new self(RefusalCode::PriceOffGrid, $fault->getMessage(), $pointer);
    }

    public static function planDoesNotFit(\DomainException $fault, ?string $pointer): self
    {
        $waits = $fault instanceof InvalidPlan && $fault->waits;

        return new self(RefusalCode::PlanDoesNotFit, $fault->getMessage(), $pointer, $waits ? ['waits' => true] : []);
    }

    public static function unknownAccount(int|string $account): self
    {
        return new self(RefusalCode::UnknownAccount, "there is no account $account of yours; GET /api/accounts lists yours");
    }

    public static function unknownContract(string $code, string $pointer): self
    {
        return new self(RefusalCode::UnknownContract, "no contract $code is listed; GET /api/contracts lists them", $pointer);
    }

    public static function orderNotFound(int|string $id): self
    {
        return new self(RefusalCode::NotFound, "there is no order $id in your accounts; GET /api/orders lists them");
    }

    public static function ticks(int $ticks): string
    {
        return "$ticks tick".($ticks === 1 ? '' : 's');
    }

    public static function lots(int $lots): string
    {
        return "$lots lot".($lots === 1 ? '' : 's');
    }

    public static function flat(string $contract, string $remedy): self
    {
        return new self(RefusalCode::Flat, "$contract is flat; $remedy");
    }

    /** @param string $portions such as "portion 2"; empty where all of the entry is meant */
    public static function noOpenLots(int $entry, string $portions): self
    {
        $has = str_starts_with($portions, 'portions') ? 'have' : 'has';

        return new self(
            RefusalCode::NothingToClose,
            ($portions === '' ? "entry $entry" : "$portions of entry $entry")." $has no open lots",
            '/portion',
        );
    }

    public static function nothingToMove(string $why): self
    {
        return new self(RefusalCode::NothingToMove, $why);
    }

    public static function nothingToChange(): self
    {
        return new self(RefusalCode::NothingToChange, 'nothing to change; send a price, trigger, quantity, tif or expires_at');
    }

    /**
     * @param string $order  such as "a stop"
     * @param string $remedy what would be right
     */
    public static function stopPassed(string $order, string $price, string $remedy, ?string $pointer = null): self
    {
        return new self(RefusalCode::StopPassed, "$order at $price is already passed by the market; $remedy", $pointer);
    }

    public static function wouldUnprotect(string $what, int $lots): self
    {
        return new self(
            RefusalCode::WouldUnprotect,
            "$what leaves $lots ".($lots === 1 ? 'lot' : 'lots')
                .' without a stop; say "leave_unprotected": true to do it all the same',
            null,
            ['unprotected' => $lots],
        );
    }
}
