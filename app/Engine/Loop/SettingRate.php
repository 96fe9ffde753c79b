<?php

declare(strict_types=1);

namespace App\Engine\Loop;

use App\Engine\EngineRefusal;
use App\Engine\Operation\Operation;
use Lotrik\Refusal\Refusal;

/**
 * How often a user may set what no trading bounds: each time it is written into the journal whole, so that one program in a loop would
 * fill a disk within hours. The hand is never that fast.
 */
final class SettingRate
{
    private readonly Rate $settings;

    private readonly Rate $levels;

    private readonly Rate $recalls;

    public function __construct()
    {
        $this->settings = new Rate(0.2, 60);
        $this->levels = new Rate(1, 100);
        $this->recalls = new Rate(5, 100);
    }

    /**
     * @param float $now in seconds, of whatever clock
     *
     * @throws Refusal
     */
    public function count(Request $request, float $now): void
    {
        [$rate, $who] = match (true) {
            $request->op->isSetting(), $request->op === Operation::Practice && isset($request->body['closes_in']) => [
                $this->settings, (int) $request->user,
            ],
            $request->op === Operation::WatchLevels => [$this->levels, $request->account],
            $request->op === Operation::Recall => [$this->recalls, $request->account],
            default => [null, 0],
        };
        if ($rate !== null && ! $rate->take($who, $now)) {
            throw EngineRefusal::setTooOften((int) ceil(1 / $rate->aSecond));
        }
    }
}
