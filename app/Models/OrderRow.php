<?php

declare(strict_types=1);

namespace App\Models;

/** A row of the engine's table orders. */
final class OrderRow extends JournalModel
{
    protected $table = 'orders';

    protected $primaryKey = 'id';

    /** @var array<string, string> */
    protected $casts = ['body' => 'array'];
}
