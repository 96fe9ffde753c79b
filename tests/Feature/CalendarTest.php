<?php

declare(strict_types=1);

namespace Tests\Feature;

use Opis\JsonSchema\Validator;
use PHPUnit\Framework\TestCase;
use Tests\Support\RunningDesk;
use Tests\Support\Trader;

/** The calendar over HTTP: set by who may steer the market, over a kill, refused with its place; and a session made short. */
final class CalendarTest extends TestCase
{
    private const DOCUMENT = ['format' => 'lotrik.calendar/1', 'name' => 'Kestrel Bay', 'days' => [
        ['date' => '2026-11-03', 'name' => 'Regatta', 'close' => '12:00', 'contracts' => ['DUL']], ['date' => '2026-11-04', 'name' => 'Lamp Day', 'close' => null],
    ]];

    private RunningDesk $desk;

    protected function setUp(): void
    {
        $this->desk = RunningDesk::start('--seed', '1', '--paused', '--clock', RunningDesk::CLOCK);
    }

    protected function tearDown(): void
    {
        $this->desk->stop();
    }

    /** @return array<string, string> contract → its hours in words */
    private function hours(Trader $trader): array
    {
        return array_column($trader->call('GET', "calendar?account={$trader->account}")->body['contracts'], 'words', 'contract');
    }

    public function testItIsSetShutsAndOutlivesAKill(): void
    {
        $trader = $this->desk->trader();
        $address = "calendar?account={$trader->account}";
        self::assertSame([], $trader->call('GET', $address)->body['calendar']['days']);
        self::assertSame('round the clock', $this->hours($trader)['DULZ6']);
        $schema = (string) json_encode($trader->call('GET', 'calendar/schema')->body, JSON_THROW_ON_ERROR);
        $valid = (new Validator())->validate(json_decode((string) json_encode(self::DOCUMENT)), $schema);
        self::assertTrue($valid->isValid());
        self::assertTrue((new Validator())->validate(json_decode((string) file_get_contents('resources/demo/calendar.json')), $schema)->isValid());
        $set = $trader->call('PUT', $address, self::DOCUMENT);
        self::assertSame([200, self::DOCUMENT], [$set->status, $set->body['calendar']], json_encode($set->body, JSON_THROW_ON_ERROR));
        self::assertSame(['open until Tue 3 Nov 12:00', 'open until Wed 4 Nov 00:00'], [$this->hours($trader)['DULZ6'], $this->hours($trader)['FRXZ6']]);
        $this->desk->killEngine();
        self::assertSame(self::DOCUMENT, $trader->call('GET', $address)->body['calendar']);
        self::assertSame('open until Tue 3 Nov 12:00', $this->hours($trader)['DULZ6']);
        foreach ([
            '/days/0/date' => ['days' => [['date' => 'soon']]],
            '/days' => ['days' => [['date' => '2026-12-24', 'contracts' => ['DUX']]]], '/format' => ['format' => 'lotrik.calendar/9'], '/colour' => ['colour' => 'red'],
        ] as $pointer => $wrong) {
            $refused = $trader->call('PUT', $address, $wrong + self::DOCUMENT);
            self::assertSame([422, $pointer], [$refused->status, $refused->body['pointer'] ?? null]);
        }
        self::assertSame(self::DOCUMENT, $trader->call('GET', $address)->body['calendar'], 'nothing was changed');
        self::assertSame(404, $trader->call('GET', 'calendar?account=99')->status);
    }

    public function testASessionIsMadeShortAndItsEndIsSeen(): void
    {
        $trader = $this->desk->trader();
        $order = ['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'exit_plan' => 3];
        $trader->place($order);
        $day = $trader->place(['kind' => 'limit', 'price' => '380.00', 'exit_plan' => null] + $order)->body['id'];
        self::assertSame(200, $trader->call('POST', 'practice/DULZ6', ['closes_in' => 1])->status);
        self::assertStringStartsWith('open until 09:3', $this->hours($trader)['DULZ6']);
        self::assertSame('round the clock', $this->hours($trader)['FRXZ6'], 'that contract alone');
        $trader->steps('DULZ6', 10_000);
        $trader->steps('DULZ6', 3_000);
        self::assertStringStartsWith('shut, opens Tue 3 Nov 00:00', $this->hours($trader)['DULZ6']);
        self::assertSame('expired', $trader->call('GET', "orders/$day")->body['state']);
        $refused = $trader->call('POST', 'orders', ['client_id' => Trader::id(), 'account' => $trader->account] + $order);
        self::assertSame([422, 'market-closed'], [$refused->status, $refused->body['code']]);
        self::assertStringContainsString('00:00', $refused->body['detail']);
        $again = $trader->call('POST', 'practice/DULZ6', ['closes_in' => 5]);
        self::assertSame([422, 'market-closed', '/closes_in'], [$again->status, $again->body['code'], $again->body['pointer'] ?? null]);
        self::assertSame(200, $trader->call('POST', 'practice/DULZ6', ['closes_in' => 0])->status);
        self::assertSame('round the clock', $this->hours($trader)['DULZ6']);
        $trader->place($order);
        $long = $trader->call('POST', 'practice/DULZ6', ['closes_in' => 1_400]);
        self::assertSame([422, 'invalid'], [$long->status, $long->body['code']]);
    }

    public function testOnlyWhoSteersTheMarketSetsIt(): void
    {
        $usual = RunningDesk::startAsUsual('--seed', '1', '--paused', '--demo-hours', '--clock', RunningDesk::CLOCK);
        try {
            $trader = $usual->trader();
            $refused = $trader->call('PUT', "calendar?account={$trader->account}", self::DOCUMENT);
            self::assertSame(403, $refused->status);
            $names = array_column($trader->call('GET', "calendar?account={$trader->account}")->body['calendar']['days'], 'name');
            self::assertContains('Lamp Day', $names, 'the demo\'s own');
        } finally {
            $usual->stop();
        }
    }
}
