<?php

declare(strict_types=1);

namespace App\Engine\Journal;

use Lotrik\Watching\MemoryPiece;

/** What the markets remember of one kind since the last commit, of all contracts together, as one row of the table. */
final readonly class MemoryPieces
{
    /** Bytes of a row: more than any second of all markets comes to. */
    private const MOST = 16_777_216;

    /** @param array<string, int> $numbers contract → number of its newest item in here */
    private function __construct(private array $numbers, public string $body) {}

    /**
     * @param array<string, list<MemoryPiece>> $memory by contract
     *
     * @return array<string, self> by kind
     */
    public static function of(array $memory): array
    {
        $numbers = $bodies = [];
        foreach ($memory as $contract => $pieces) {
            foreach ($pieces as $piece) {
                $numbers[$piece->kind][$contract] = $piece->number;
                $bodies[$piece->kind] = ($bodies[$piece->kind] ?? '').pack('v', strlen($contract)).$contract.pack(
                    'P2',
                    $piece->number,
                    strlen($piece->body),
                ).$piece->body;
            }
        }
        $rows = [];
        foreach ($bodies as $kind => $body) {
            $rows[$kind] = new self($numbers[$kind], (string) gzcompress($body, 1));
        }

        return $rows;
    }

    /** For the column beside it: which of its items are the newest can be read without its body. */
    public function newest(): string
    {
        return json_encode($this->numbers, JSON_THROW_ON_ERROR);
    }

    /**
     * @return \Generator<string, MemoryPiece> contract → piece
     *
     * @throws \UnexpectedValueException
     */
    public static function pieces(string $kind, string $body): \Generator
    {
        $text = @gzuncompress($body, self::MOST);
        if ($text === false) {
            throw new \UnexpectedValueException('found a row that is damaged, or larger than any that is written now');
        }
        for ($offset = 0; $offset < strlen($text);) {
            /** @var array{1: int} $length */
            $length = unpack('v', $text, $offset);
            $contract = substr($text, $offset + 2, $length[1]);
            /** @var array{1: int, 2: int} $head */
            $head = unpack('P2', $text, $offset + 2 + $length[1]);
            $start = $offset + 18 + $length[1];
            yield $contract => new MemoryPiece($kind, $head[1], substr($text, $start, $head[2]));
            $offset = $start + $head[2];
        }
    }
}
