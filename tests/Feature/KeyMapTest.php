<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Settings\KeyMap;
use PHPUnit\Framework\TestCase;

/** Maps of keys that an older build saved. */
final class KeyMapTest extends TestCase
{
    /** Held for "cancel all" as always, it would flatten every contract after an update. */
    public function testANewActionNeverTakesAKeyThatTheTraderUses(): void
    {
        $default = (array) (new KeyMap())->byDefault()['keys'];
        $saved = array_diff_key(['cancel-all' => '0'] + $default, ['flatten-account' => 1]);
        $keys = KeyMap::withNew($saved, ['F24', null]);
        self::assertSame(['0', 'F23'], [$keys['cancel-all'], $keys['flatten-account']]);
        self::assertSame(array_unique($keys), $keys);
        self::assertSame('0', KeyMap::withNew(array_diff_key($default, ['flatten-account' => 1]), [])['flatten-account']);
        self::assertSame('F24', KeyMap::withNew(array_diff_key($default, ['flatten-account' => 1]), ['0'])['flatten-account']);
    }
}
