<?php

declare(strict_types=1);

/*
 * Writes a golden journal of this build, with the state that it ends in: php tests/Support/golden.php version-3. To be run
 * with the build before one that changes an event; what is there is never written over.
 */

use Lotrik\Desk\Event\EventCodec;
use Tests\Support\StateOnPaper;
use Tests\Support\WideActions;
use Tests\Support\WideHistory;

require __DIR__.'/../../vendor/autoload.php';
$name = $argv[1] ?? exit("a name is needed, such as version-3\n");
$file = dirname(__DIR__)."/Core/golden/$name";
if (is_file("$file.json.gz")) {
    exit("$file.json.gz: found it there, expected a new name\n");
}
$history = new WideHistory(7, 3, 6);
foreach ([7, 21, 35, 49, 63, 77, 91, 105] as $seed) {
    array_map($history->perform(...), WideActions::of($seed, 150));
}
$lines = $types = [];
foreach ($history->system->events as $recorded) {
    $types[EventCodec::type($recorded->event)] = true;
    $lines[] = json_encode(
        [
            $recorded->sequence, $recorded->at, EventCodec::type($recorded->event), EventCodec::version($recorded->event),
            EventCodec::encode($recorded->event),
        ],
        JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR,
    );
}
file_put_contents("$file.jsonl.gz", gzencode(implode("\n", $lines)."\n", 9));
file_put_contents(
    "$file.json.gz",
    gzencode(
        json_encode(
            StateOnPaper::of($history->system->system->desk->state),
            JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR,
        ),
        9,
    ),
);
printf("%d events of %d types\n", count($lines), count($types));
