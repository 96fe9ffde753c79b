<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/** A seeded stream of whole random numbers that can be packed and goes on where it was. */
final class SeededRandom
{
    private Randomizer $randomizer;

    private function __construct(private readonly Xoshiro256StarStar $engine)
    {
        $this->randomizer = new Randomizer($engine);
    }

    /** The same seed and name give the same stream. */
    public static function seeded(int $seed, string $name): self
    {
        return new self(new Xoshiro256StarStar(hash('sha256', "$seed/$name", true)));
    }

    /** 0 to `$n` − 1 */
    public function below(int $n): int
    {
        return $this->randomizer->getInt(0, $n - 1);
    }

    /**
     * @template T
     *
     * @param non-empty-list<T> $table
     *
     * @return T
     */
    public function pick(array $table): mixed
    {
        return $table[$this->randomizer->getInt(0, count($table) - 1)];
    }

    public function pack(): string
    {
        return bin2hex(serialize($this->engine));
    }

    public static function unpack(string $packed): self
    {
        $engine = unserialize((string) hex2bin($packed), ['allowed_classes' => [Xoshiro256StarStar::class]]);
        assert($engine instanceof Xoshiro256StarStar);

        return new self($engine);
    }
}
