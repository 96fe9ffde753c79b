<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\EventCodec;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\StateOnPaper;

/**
 * Journals that older builds wrote, one of each build that changed an event, with the state that they ended in beside
 * them: they load, and end there. A file is never changed; a build that changes an event adds one of the build before it.
 */
final class GoldenJournalsTest extends TestCase
{
    /** @return iterable<string, array{string}> */
    public static function journals(): iterable
    {
        foreach (glob(__DIR__.'/golden/*.jsonl.gz') ?: [] as $file) {
            yield basename($file, '.jsonl.gz') => [$file];
        }
    }

    #[DataProvider('journals')]
    public function testItEndsInTheStateThatItEndedIn(string $file): void
    {
        $state = new DeskState();
        $types = [];
        foreach (explode("\n", rtrim((string) gzdecode((string) file_get_contents($file)))) as $line) {
            [$sequence, $at, $type, $version, $body] = json_decode($line, true, 512, JSON_THROW_ON_ERROR);
            $event = EventCodec::decode($type, $version, $body, $state);
            $types[$type] = true;
            $state->apply($event, $at);
            self::assertSame($sequence, $state->sequence);
            // Written anew, in the shape of today, it says the same.
            self::assertEquals($event, EventCodec::decode($type, EventCodec::version($event), EventCodec::encode($event), new DeskState()));
        }
        self::assertGreaterThan(20, count($types), 'nearly every type of event is in it');
        $expected = json_decode(
            (string) gzdecode((string) file_get_contents(str_replace('.jsonl.gz', '.json.gz', $file))),
            true,
            512,
            JSON_THROW_ON_ERROR,
        );
        self::assertEquals($expected, json_decode(json_encode(StateOnPaper::of($state), JSON_THROW_ON_ERROR), true));
    }
}
