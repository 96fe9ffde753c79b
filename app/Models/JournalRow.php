<?php

declare(strict_types=1);

namespace App\Models;

/** A row of the engine's table journal. */
final class JournalRow extends JournalModel
{
    protected $table = 'journal';

    protected $primaryKey = 'sequence';

    /** @var array<string, string> */
    protected $casts = ['body' => 'array'];
}
