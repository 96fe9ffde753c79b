<?php

declare(strict_types=1);

namespace App\Models;

/** A row of the engine's table contracts. */
final class ContractRow extends JournalModel
{
    protected $table = 'contracts';

    protected $primaryKey = 'code';

    protected $keyType = 'string';

    /** @var array<string, string> */
    protected $casts = ['body' => 'array'];
}
