<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Engine\View\Time;
use App\Models\JournalRow;
use Illuminate\Http\Request;

/**
 * A row of the journal as it goes out.
 *
 * @mixin JournalRow
 */
final class JournalResource extends ApiResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return [
            'sequence' => $this->sequence, 'time' => Time::iso($this->at), 'account' => $this->account, 'contract' => $this->contract,
            'type' => $this->type,
            'actor' => $this->command_id === null ? 'engine' : 'trader', 'words' => $this->words, 'body' => $this->body,
        ];
    }
}
