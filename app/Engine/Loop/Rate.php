<?php

declare(strict_types=1);

namespace App\Engine\Loop;

/** How often somebody may do something: so often a second for good, and some at once beyond that. */
final class Rate
{
    /** @var array<int, array{float, float}> who → how many are left, and when that was counted, in seconds */
    private array $left = [];

    public function __construct(public readonly float $aSecond, public readonly int $burst) {}

    /**
     * @param int   $who such as the number of an account or a user
     * @param float $now in seconds, of whatever clock
     *
     * @return bool false where it is too often
     */
    public function take(int $who, float $now): bool
    {
        [$left, $at] = $this->left[$who] ?? [(float) $this->burst, $now];
        $left = min((float) $this->burst, $left + ($now - $at) * $this->aSecond);
        $may = $left >= 1;
        $this->left[$who] = [$may ? $left - 1 : $left, $now];

        return $may;
    }
}
