<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\LevelRow;
use Illuminate\Http\Request;
use Lotrik\Contract\Contract;

/**
 * A marked level as it goes out.
 *
 * @mixin LevelRow
 */
final class LevelResource extends ApiResource
{
    /** @param array<string, mixed>|null $figures what the engine says of it; null where its contract is not listed any more */
    public function __construct(private readonly LevelRow $level, private readonly Contract $listed, private readonly ?array $figures)
    {
        parent::__construct($level);
    }

    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $level = $this->level;

        return [
            'id' => $level->id, 'contract' => $level->contract, 'low' => $this->listed->price($level->low),
            'high' => $this->listed->price($level->high),
            'low_level' => $level->low, 'high_level' => $level->high, 'name' => $level->name, 'tone' => $level->tone,
            'figures' => $this->figures,
        ];
    }
}
