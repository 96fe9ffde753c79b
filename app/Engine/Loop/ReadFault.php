<?php

declare(strict_types=1);

namespace App\Engine\Loop;

use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** A fault in what only reads: whoever asked is told, the log says why, and what trades goes on. */
final class ReadFault
{
    /** @return array<string, mixed> the reply */
    public static function told(Request $request, \Throwable $fault): array
    {
        self::log($request->op->value, $fault);
        $refusal = new Refusal(RefusalCode::Fault, 'it could not be worked out; nothing was done, and the engine\'s log says why');

        return ['id' => $request->id, 'ok' => false, 'problem' => $refusal->toArray()];
    }

    /** @param string $what was being read or drawn */
    public static function log(string $what, \Throwable $fault): void
    {
        @fwrite(STDERR, "$what: {$fault->getMessage()} ({$fault->getFile()}:{$fault->getLine()})\n");
    }
}
