<?php

declare(strict_types=1);

namespace Tests\Browser;

use Lotrik\Order\ClickKind;
use PHPUnit\Framework\TestCase;
use Tests\Support\PageModule;

/** Modules of the page that need no browser, against vectors: the kind of a click, commands, what the stream's events do, columns. */
final class ModulesTest extends TestCase
{
    /** What a page has and Node has not: frames are drawn when `frame()` says so. */
    private const PAGE = <<<'JS'
        let frames = [], id = 0;
        const store = new Map();
        Object.assign(globalThis, {
            requestAnimationFrame: (draw) => (frames.push({ id: ++id, draw }), id),
            cancelAnimationFrame: (one) => { frames = frames.filter((frame) => frame.id !== one); },
            localStorage: { getItem: (key) => store.get(key) ?? null, setItem: (key, value) => store.set(key, value) },
            document: { hidden: false, querySelector: () => null, querySelectorAll: () => [], addEventListener() {}, getElementById: () => globalThis.table },
        });
        globalThis.window = globalThis;
        globalThis.addEventListener ??= () => {};
        const frame = () => { const due = frames; frames = []; for (const { draw } of due) draw(); };
        JS;

    public function testTheKindOfAClickIsThatOfPhpsTableAtEveryRungForEverySideAndModifier(): void
    {
        $vectors = $expected = [];
        foreach (['buy' => 1, 'sell' => -1] as $side => $sign) {
            foreach (range(-6, 6) as $beyond) {
                foreach ([[false, false], [true, false], [true, true], [false, true]] as [$shift, $alt]) {
                    $touch = $sign > 0 ? 831 : 830;
                    $vectors[] = [$side, $touch + $sign * $beyond, $shift, $alt];
                    $row = array_values(array_filter(
                        ClickKind::table(),
                        static fn(array $row): bool => $row['up_to'] === null || $beyond <= $row['up_to'],
                    ))[0];
                    $expected[] = $shift ? ($alt ? $row['alt_shift'] : $row['shift']) : $row['plain'];
                }
            }
        }
        $found = PageModule::runWhole(
            'model/clickKind.ts',
            self::PAGE.'globalThis.table = {textContent: JSON.stringify(data.table)};',
            'const book = {bestBid: 830, bestAsk: 831, last: {price: 830}}; console.log(JSON.stringify(data.vectors.map(([side, tick, shift, alt]) => page.kindOfClick(side, tick, book, {shift, alt}))));',
            ['table' => ClickKind::table(), 'vectors' => $vectors],
        );
        self::assertSame($expected, $found[0]);
    }

    /** By hand: rungs of two ticks, of which the first begins at an even one; what is on both counts together. */
    public function testARungOfSeveralTicksHasWhatStandsAtEach(): void
    {
        [$one, $two] = PageModule::runWhole('panels/ladder/rungsFrom.ts', self::PAGE, <<<'JS'
            const chip = (id) => ({id, words: 'limit', lots: 1});
            const market = {
                contract: {code: 'X', tick_size: '0.50', display: {decimals: 2}},
                book: {bids: new Map([[10, [5, 1]], [9, [7, 2]]]), asks: new Map([[11, [3, 1]], [12, [90, 4]]]), bestBid: 10, bestAsk: 11, last: {price: 11, size: 6}},
                depth: {unusual: 40, changed: new Map([[12, 33]]), just: new Map([[11, [2, 1]], [10, [0, 4]]])},
                day: {limits: [9, 12]}, marks: new Map([[12, 'high'], [11, 'VWAP']]), chips: new Map([['buy 9', JSON.stringify([chip(1)])], ['buy 10', JSON.stringify([chip(2), chip(3)])]]),
            };
            const told = (rungs) => rungs.map((r) => [r.tick, r.side, r.lots, r.orders, r.change, r.bought, r.sold, r.isUnusual, r.day, r.isBeyond, r.lastSize, r.isTouch, r.buys === '' ? [] : JSON.parse(r.buys).map((c) => c.id)]);
            console.log(JSON.stringify(told(page.rungsFrom(market, {top: 13, rows: 5, zoom: 1}))));
            console.log(JSON.stringify(told(page.rungsFrom(market, {top: 13, rows: 3, zoom: 2}))));
            JS);
        self::assertSame([
            [13, null, 0, 0, 0, 0, 0, false, '', true, null, false, []],
            [12, 'ask', 90, 4, 33, 0, 0, true, 'high', false, null, false, []],
            [11, 'ask', 3, 1, 0, 2, 1, false, 'VWAP', false, 6, true, []],
            [10, 'bid', 5, 1, 0, 0, 4, false, '', false, null, false, [2, 3]],
            [9, 'bid', 7, 2, 0, 0, 0, false, '', false, null, false, [1]],
        ], $one);
        self::assertSame([
            [12, 'ask', 90, 4, 33, 0, 0, true, 'high', false, null, false, []],
            [10, 'bid', 8, 2, 0, 2, 5, false, 'VWAP', false, 6, true, [2, 3]],
            [8, 'bid', 7, 2, 0, 0, 0, false, '', true, null, false, [1]],
        ], $two);
    }

    public function testNumbersAreReadAsTheyAreTyped(): void
    {
        $cases = [
            '0.5' => '0.5', '0,5' => '0.5', ' 0,5 % ' => '0.5', '2%' => '2', '-1,25' => '-1.25', ',5' => '.5', '414,50' => '414.50', '0,125' => '0.125', '1,881' => '1,881', '1,000' => '1,000', '112,031250' => '112.031250', '1,234.50' => '1,234.50', '1,2,3' => '1,2,3',
            '110-17½' => '110-17½', '' => '', '%' => '', 'x,1' => 'x,1',
        ];
        $found = PageModule::runWhole('model/typedNumber.ts', '', 'console.log(JSON.stringify(data.map(page.typedNumber)))', array_map(strval(...), array_keys($cases)));
        self::assertSame(array_values($cases), $found[0]);
    }

    /** Times as a trader types them, in the zone of the window: over a change of the clocks, at the end of a year, on days that are not. */
    public function testMomentsAreReadAsTheyAreTyped(): void
    {
        $now = '2026-12-04T14:30:00Z';
        $cases = [
            ['15:00', $now, '2026-12-04T15:00:00.000Z'], ['14:30', $now, '2026-12-05T14:30:00.000Z'], [' 9:05:30 ', $now, '2026-12-05T09:05:30.000Z'],
            ['4 dec 15:00', $now, '2026-12-04T15:00:00.000Z'], ['4 December 15:00', $now, '2026-12-04T15:00:00.000Z'],
            ['4 dec 14:00', $now, '2027-12-04T14:00:00.000Z'], ['31 nov 10:00', $now, null], ['4 foo 10:00', $now, null],
            ['+90m', $now, '2026-12-04T16:00:00.000Z'], ['+1h30m', $now, '2026-12-04T16:00:00.000Z'], ['+45s', $now, '2026-12-04T14:30:45.000Z'],
            ['+', $now, null], ['+0m', $now, null], ['90m', $now, null], ['close', $now, '2026-12-04T18:30:00.000Z'],
            ['2026-12-24 10:00', $now, '2026-12-24T10:00:00.000Z'], ['2026-12-01 10:00', $now, null], ['2026-12-24T10:00:00+02:00', $now, '2026-12-24T08:00:00.000Z'],
            ['24:00', $now, null], ['12:60', $now, null], ['', $now, null], ['soon', $now, null],
            // Lisbon is at UTC+1 until 01:00 UTC on 25 October 2026; on 29 March 2026 its clocks show no 01:30.
            ['3:00', '2026-10-24T22:30:00Z', '2026-10-25T03:00:00.000Z'], ['29 mar 1:30', '2026-03-01T12:00:00Z', null], ['1:30', '2026-03-28T23:00:00Z', '2026-03-30T00:30:00.000Z'],
        ];
        $found = PageModule::runWhole(
            'model/readMoment.ts',
            'process.env.TZ = "Europe/Lisbon";',
            'console.log(JSON.stringify(data.map(([typed, now]) => { const at = page.readMoment(typed, Date.parse(now), Date.parse("2026-12-04T18:30:00Z")); return at === null ? null : new Date(at).toISOString(); })))',
            $cases,
        );
        self::assertSame(array_map(static fn(array $case): array => [$case[0], $case[2]], $cases), array_map(null, array_column($cases, 0), $found[0]));
    }

    /** What a hand does with keys that must be held: kind, key or action, and ms; then what has acted, each with when. */
    public function testAHeldKeyActsOnceWhenItWasHeldForLongEnoughAndOnlyThen(): void
    {
        foreach ([
            'let go too early' => [[['down', 'x', 0], ['up', 'x', 299]], [], []],
            'held' => [[['down', 'x', 0], ['up', 'x', 301]], ['x 300'], []],
            'held on and on' => [[['down', 'x', 0], ['up', 'x', 5_000]], ['x 300'], []],
            'let go and pressed again' => [[['down', 'x', 0], ['up', 'x', 200], ['down', 'x', 250], ['up', 'x', 400]], [], []],
            'twice' => [[['down', 'x', 0], ['up', 'x', 350], ['down', 'x', 400], ['up', 'x', 800]], ['x 300', 'x 700'], []],
            'another key on top of it' => [[['down', 'x', 0], ['down', 'y', 100], ['up', 'y', 250], ['up', 'x', 320]], ['x 300'], []],
            'two at once' => [[['down', 'x', 0], ['down', 'y', 100], ['look', '', 350], ['up', 'y', 450], ['up', 'x', 460]], ['x 300', 'y 400'], ['y']],
            'its end was never heard' => [[['down', 'x', 0], ['down', 'x', 100], ['up', 'x', 350]], [], []],
            'a modifier came up first: another action by the same key' => [[['down', 'x', 0], ['down', 'x2', 100], ['up', 'x', 450]], ['x2 400'], []],
            'the window was left' => [[['down', 'x', 0], ['blur', '', 200], ['look', '', 250], ['up', 'x', 400]], [], []],
            'the page was busy, the timer late' => [[['busy', '', 0], ['down', 'x', 1], ['up', 'x', 350]], ['x 350'], []],
            'busy, and let go too early' => [[['busy', '', 0], ['down', 'x', 1], ['up', 'x', 290]], [], []],
        ] as $case => [$hand, $acted, $shown]) {
            $found = PageModule::runWhole('ui/holding.ts', self::PAGE.<<<'JS'
                let now = 0, busy = false, timers = [], made = 0;
                globalThis.setTimeout = (act, ms) => (timers.push({ id: ++made, act, at: now + ms }), made);
                globalThis.clearTimeout = (one) => { timers = timers.filter(({ id }) => id !== one); };
                JS, <<<'JS'
                const acted = [];
                let ids = [], looked = [];
                const holding = page.createHolding((now) => { ids = now; });
                for (const [what, id, at] of data) {
                    for (;;) {
                        const due = busy ? undefined : timers.filter((one) => one.at <= at).sort((a, b) => a.at - b.at)[0];
                        if (!due) break;
                        timers = timers.filter((one) => one !== due);
                        now = due.at;
                        due.act();
                    }
                    now = at;
                    if (what === 'down') holding.down(id, id[0], at, () => acted.push(`${id} ${now}`));
                    if (what === 'up') holding.up(id[0], at);
                    if (what === 'blur') holding.dropAll();
                    if (what === 'busy') busy = true;
                    if (what === 'look') looked = ids;
                }
                console.log(JSON.stringify({ acted, looked, left: ids }));
                JS, $hand)[0];
            self::assertSame(['acted' => $acted, 'looked' => $shown, 'left' => []], $found, $case);
        }
    }

    /**
     * @param list<array{string, array<string, mixed>, 2?: string}> $fates of the calls, in their order: what happens, and the answer
     *
     * @return array{paths: list<string>, ids: list<string>, ended: string}
     */
    private static function deliver(bool $opens, array $fates): array
    {
        return PageModule::runWhole('commands/command.ts', self::PAGE.<<<'JS'
            const paths = [], ids = [];
            globalThis.fetch = async (path, { body }) => {
                const [fate, answer, status] = data.fates[Math.min(paths.length, data.fates.length - 1)];
                paths.push(path); ids.push(JSON.parse(body).client_id);
                if (fate === 'lost') throw new TypeError('lost');
                return new Response(fate === 'broken' ? '{"id":' : JSON.stringify(answer), { status: Number(status ?? 200), headers: fate === 'quiet' ? { 'Problem-Status': '422' } : {} });
            };
            JS, <<<'JS'
            const command = page.freeze({ account: 1, method: 'POST', path: 'orders', body: { lots: 2 }, words: 'buy 2', opens: data.opens });
            const ended = await page.deliver(command).then((answer) => 'answer ' + JSON.stringify(answer), (error) => error.code);
            console.log(JSON.stringify({ paths, ids, ended, left: page.useUnheard.getState().list.length }));
            JS, ['opens' => $opens, 'fates' => $fates])[0];
    }

    public function testACommandKeepsItsIdUntilItIsKnownWhatBecameOfIt(): void
    {
        foreach ([
            'answered' => [true, [['answer', ['id' => 7]]], 1, 'answer {"id":7}'],
            'lost twice, then answered' => [true, [['lost', []], ['lost', []], ['answer', ['id' => 7]]], 3, 'answer {"id":7}'],
            'an answer that broke off' => [true, [['broken', []], ['answer', ['id' => 7]]], 2, 'answer {"id":7}'],
            'refused' => [true, [['answer', ['code' => 'flat', 'detail' => 'flat'], '422']], 1, 'flat'],
            'refused quietly' => [true, [['quiet', ['code' => 'flat', 'detail' => 'flat']]], 1, 'flat'],
            'lost, then the session ends, then answered' => [
                true, [['lost', []], ['answer', [], '401'], ['answer', [], '429'], ['answer', ['id' => 7]]], 4, 'answer {"id":7}',
            ],
            'an engine that is away: what opens is not sent' => [
                true, [['answer', ['code' => 'engine-away', 'detail' => 'away'], '503']], 1, 'engine-away',
            ],
            'what closes waits for it' => [
                false, [['answer', ['code' => 'engine-away', 'detail' => 'away'], '503'], ['answer', ['flat' => true]]], 2, 'answer {"flat":true}',
            ],
        ] as $what => [$opens, $fates, $calls, $ended]) {
            $found = self::deliver($opens, $fates);
            self::assertSame([$calls, $ended, 0], [count($found['paths']), $found['ended'], $found['left']], $what);
            self::assertCount(1, array_unique($found['ids']), $what);
            self::assertSame(array_fill(0, $calls, '/api/orders'), $found['paths'], $what);
        }
    }

    /** Beside an order that was done and whose answer was lost, a list that finds the session gone must not say that it was not sent. */
    public function testOnlyACommandThatWasNotSentSaysSo(): void
    {
        $gone = 'globalThis.fetch = async () => new Response("{}", { status: 401 });';
        $asked = PageModule::runWhole('api/client.ts', self::PAGE.$gone, 'console.log(JSON.stringify(await page.call("GET", "orders").catch((error) => error.message)));', [])[0];
        self::assertSame('You are signed out.', $asked);
        $sent = PageModule::runWhole('commands/command.ts', self::PAGE.$gone, <<<'JS'
            const command = page.freeze({ account: 1, method: 'POST', path: 'orders', body: { lots: 2 }, words: 'buy 2', opens: true });
            console.log(JSON.stringify(await page.deliver(command).catch((error) => error.message)));
            JS, [])[0];
        self::assertSame('Not sent: you are signed out.', $sent);
    }

    /** Sent again after a second and a half it would be another order: then it is asked for, and given up where it never came. */
    public function testWhatOpensIsAskedForOnceItWouldComeTooLate(): void
    {
        $lost = array_fill(0, 5, ['lost', []]);
        foreach (['answer {"id":7}' => ['arrived' => true, 'answer' => ['id' => 7]], 'not-arrived' => ['arrived' => false, 'answer' => null]] as $ended => $answer) {
            $found = self::deliver(true, [...$lost, ['answer', $answer]]);
            self::assertSame($ended, $found['ended']);
            self::assertSame('/api/accounts/1/recall', end($found['paths']));
            self::assertCount(1, array_unique($found['ids']));
        }
    }

    /** @return list<mixed> */
    private static function market(string $script): array
    {
        return PageModule::runWhole('stream/market.ts', self::PAGE, <<<'JS'
            const market = page.createMarket(), other = page.createMarket();
            const { receive, useDesk } = market;
            const book = (bids, asks) => ({ contract: 'DULZ6', full: true, bids, asks, last: null });
            const state = (more) => receive.state({ epoch: 'one', sequence: 5, orders: [], positions: [], risk: null, books: {}, days: [], ...more });
            const order = (id, more) => ({ id, contract: 'DULZ6', state: 'new', path: [], ...more });
            const notice = (sequence, words) => receive.notice({ sequence, words, type: 'x', contract: null, time: '', speaks: true });
            const told = () => { frame(); return new Promise((done) => setTimeout(done, 130)); };
            const show = (what) => console.log(JSON.stringify(what(useDesk.getState())));
            JS.$script);
    }

    public function testTradesThatComeTogetherAreTheSameAsOneByOne(): void
    {
        $trades = [[1000, 831, 2, 1, 7], [1000, 831, 3, 1, 8], [1001, 830, 4, -1, 9]];
        [$together, $each] = self::market(sprintf(<<<'JS'
            const rows = %s;
            const lastOf = ({ price, size, aggressor }) => ({ price, size, aggressor });
            const of = (on) => ({ last: lastOf(on.useDesk.getState().books.DULZ6.last), tape: on.prints.of('DULZ6') });
            for (const on of [market, other]) on.receive.state({ epoch: 'one', sequence: 5, orders: [], positions: [], risk: null, books: { DULZ6: book([[830, 5, 1]], [[831, 7, 2]]) }, days: [] });
            await told();
            market.receive.trades({ contract: 'DULZ6', rows });
            for (const [at, price, size, sign, number] of rows) other.receive.trade({ contract: 'DULZ6', price, size, aggressor: sign > 0 ? 'buy' : 'sell', at, number });
            await told();
            console.log(JSON.stringify(of(market))); console.log(JSON.stringify(of(other)));
            JS, json_encode($trades)));
        self::assertSame(['price' => 830, 'size' => 4, 'aggressor' => 'sell'], $together['last']);
        self::assertSame($each, $together);
        self::assertSame([5, 4], array_column($together['tape'], 'size'));
    }

    public function testAWholePictureReplacesWhatWasShownAndAResumedStreamTellsNothingTwice(): void
    {
        [$first, $resumed, $reset, $other] = self::market(<<<'JS'
            state({ orders: [order(1), order(2)], books: { DULZ6: book([[830, 5, 1]], [[831, 7, 2]]) } });
            receive.order(order(3)); receive.order(order(1, { state: 'filled' })); notice(6, 'a'); notice(7, 'b');
            await told();
            const of = (desk) => ({ orders: [...desk.orders.keys()], words: desk.notices.map((n) => n.words), pictures: desk.pictures, bid: desk.books.DULZ6?.bestBid ?? null, epoch: desk.epoch });
            show(of);
            // The stream broke off and begins again where it was: its last commit comes once more.
            notice(6, 'a'); notice(7, 'b'); notice(8, 'c'); receive.order(order(3));
            await told(); show(of);
            state({ epoch: 'two', sequence: 20, orders: [order(9)], books: {} });
            await told(); show(of);
            console.log(JSON.stringify(of(other.useDesk.getState())));
            JS);
        self::assertSame(['orders' => [2, 3], 'words' => ['b', 'a'], 'pictures' => 1, 'bid' => 830, 'epoch' => 'one'], $first);
        self::assertSame(['b', 'a'], array_slice($resumed['words'], 1));
        self::assertSame([['c', 'b', 'a'], [2, 3]], [$resumed['words'], $resumed['orders']]);
        self::assertSame(['orders' => [9], 'words' => ['c', 'b', 'a'], 'pictures' => 2, 'bid' => null, 'epoch' => 'two'], $reset);
        self::assertSame(['orders' => [], 'words' => [], 'pictures' => 0, 'bid' => null, 'epoch' => ''], $other, 'a second market knows nothing of it');
    }

    public function testLinesThatWereMissedStandInTheirPlaceAndAreNotSaid(): void
    {
        [$lines, $late] = self::market(<<<'JS'
            state({}); notice(6, 'a'); notice(9, 'd'); market.say('here'); notice(12, 'g');
            const rows = ['a', 'b', 'c', 'd', 'e', 'f'].map((words, at) => ({ sequence: 6 + at, words, type: 'x', contract: null, time: '' }));
            const missed = receive.told(rows);
            await told();
            console.log(JSON.stringify({ missed, words: useDesk.getState().notices.map((n) => n.words), spoken: useDesk.getState().notices.filter((n) => n.speaks).map((n) => n.words) }));
            notice(11, 'f'); await told();
            show((desk) => desk.notices.length);
            JS);
        self::assertSame(4, $lines['missed']);
        self::assertSame(['g', 'here', 'f', 'e', 'd', 'c', 'b', 'a'], $lines['words']);
        self::assertSame(['g', 'here', 'd', 'a'], $lines['spoken']);
        self::assertSame(8, $late, 'what was fetched is not told again');
    }

    public function testBooksAreMergedLevelByLevelAndMarksReachOnlyWhatIsThere(): void
    {
        [$books, $marks] = self::market(<<<'JS'
            state({ orders: [order(1, { ahead: 9 })], positions: [{ contract: 'DULZ6', quantity: 2, open_money: '0.00' }], books: { DULZ6: book([[830, 5, 1], [829, 3, 1]], [[831, 7, 2]]) } });
            receive.book({ contract: 'DULZ6', bids: [[830, 0, 0], [828, 2, 1]], asks: [[831, 4, 1]] });
            await told();
            show((desk) => ({ bids: [...desk.books.DULZ6.bids.keys()].sort(), best: [desk.books.DULZ6.bestBid, desk.books.DULZ6.bestAsk], ask: desk.books.DULZ6.asks.get(831) }));
            receive.mark({ positions: [{ contract: 'DULZ6', open_money: '5.00' }, { contract: 'NONE', open_money: '1.00' }], ahead: [[1, 4], [99, 2]], risk: null });
            await told();
            show((desk) => ({ open: desk.positions.DULZ6.open_money, lots: desk.positions.DULZ6.quantity, known: Object.keys(desk.positions), ahead: desk.orders.get(1).ahead, orders: desk.orders.size }));
            JS);
        self::assertSame(['bids' => [828, 829], 'best' => [829, 831], 'ask' => [4, 1]], $books);
        self::assertSame(['open' => '5.00', 'lots' => 2, 'known' => ['DULZ6'], 'ahead' => 4, 'orders' => 1], $marks);
    }

    public function testColumnsAreKeptInTheirOrderUpToABoundAndAGapIsNoticed(): void
    {
        [$kept] = PageModule::runWhole('stream/columns.ts', self::PAGE, <<<'JS'
            const columns = page.createColumns(), gaps = [];
            for (const at of [250, 500, 500, 250, 1000, 2000]) gaps.push(columns.keep('DULZ6', 250, { at, from: 820, lots: [4, 0, 7], trades: [[821, 2, 3]] }));
            for (let at = 2250; at <= 250_000; at += 250) columns.keep('DULZ6', 250, { at, from: 820, lots: [4], trades: [] });
            const all = columns.of('DULZ6', 250).map((column) => column.at);
            const fresh = page.createColumns(); fresh.keep('DULZ6', 250, { at: 250, from: 820, lots: [4, 0, 7], trades: [[821, 2, 3], [822, 0, 9]] }); const [one] = fresh.of('DULZ6', 250);
            console.log(JSON.stringify({ lots: [...one.lots], traded: [page.tradedAt(one, 821), page.tradedAt(one, 822), page.tradedAt(one, 823)], gaps, most: all.length, newest: all.at(-1), inOrder: all.every((at, i) => i === 0 || at > all[i - 1]), other: columns.of('DULZ6', 2000).length, apart: page.createColumns().of('DULZ6', 250).length }));
            JS);
        self::assertSame([[4, 0, 7], [[2, 3], [0, 9], [0, 0]]], [$kept['lots'], $kept['traded']]);
        self::assertSame([false, false, false, false, false, true], $kept['gaps'], 'one that is a single step late is none');
        self::assertLessThanOrEqual(480 + 128, $kept['most']);
        self::assertSame([250_000, true, 0, 0], [$kept['newest'], $kept['inOrder'], $kept['other'], $kept['apart']]);
    }
}
