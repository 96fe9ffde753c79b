<?php

declare(strict_types=1);

namespace Tests\Reference;

use App\Demo\KestrelBay;
use Brick\Math\BigDecimal;
use Brick\Math\RoundingMode;
use Lotrik\Order\Side;
use Lotrik\Position\PnlLine;
use Lotrik\Position\PnlLines;
use Lotrik\Position\Position;
use PHPUnit\Framework\TestCase;
use Tests\Support\PageModule;

/**
 * What the page writes by itself (ticks as a price, PHP's P/L line as money) against vectors that PHP writes, for
 * every demo contract.
 */
final class PageWritingTest extends TestCase
{
    public function testThePageWritesWhatPhpWrites(): void
    {
        $vectors = [];
        foreach (KestrelBay::contracts(new \DateTimeImmutable('2026-11-02')) as [$contract, $home]) {
            foreach ([$home, $home + 1, $home + 7, $home - 64, 1, 0, -1, -33] as $tick) {
                $position = new Position();
                $position->fill($home % 2 === 0 ? Side::Buy : Side::Sell, 3, $home + 2);
                $line = PnlLine::of($position, $contract);
                $lines = ['money' => $line->toArray(), 'ticks' => PnlLines::ticks($position), 'percent' => PnlLines::percent($position, $contract)];
                $vectors[] = [
                    'lines' => $lines, 'ticks' => self::signed($lines['ticks'], $tick),
                    'percent' => $lines['percent'] === null ? $contract->money($position->openTicks($tick))->display(true) : self::signed($lines['percent'], $tick).' %',
                    'contract' => [
                        'tick_size' => (string) $contract->tickSize, 'price_scale' => $contract->scale(),
                        'display' => $contract->display->toArray(),
                    ],
                    'tick' => $tick, 'pnl' => $line->toArray(), 'minor' => $contract->currency->minorUnit,
                    'price' => $contract->price($tick), 'shown' => $contract->write($tick),
                    'money' => $contract->money($position->openTicks($tick))->display(true),
                    'exact' => $contract->money($position->openTicks($tick))->exact(),
                ];
            }
        }
        $written = PageModule::run(
            'model/prices.ts',
            'for (const v of data) console.log(JSON.stringify([page.price(v.contract, v.tick), page.writePrice(v.contract, v.tick), page.writeMoney(page.pnlAt(v.pnl, v.tick), v.pnl.scale, v.minor), page.writeExact(v.exact, v.minor), ...["money", "ticks", "percent"].map((unit) => page.writePnl(v.lines, unit, v.tick, v.minor)), page.tickOf(v.contract, v.price)]));',
            $vectors,
        );
        foreach ($vectors as $i => $vector) {
            self::assertSame(
                [$vector['price'], $vector['shown'], $vector['money'], $vector['money'], $vector['money'], $vector['ticks'], $vector['percent'], $vector['tick']],
                $written[$i],
                json_encode($vector, JSON_UNESCAPED_UNICODE) ?: '',
            );
        }
    }

    /** @param array{scale: int, base: int, slope: int, shown: int} $line */
    private static function signed(array $line, int $tick): string
    {
        $text = (string) BigDecimal::ofUnscaledValue($line['base'] + $line['slope'] * $tick, $line['scale'])->toScale($line['shown'], RoundingMode::HALF_UP);

        return str_starts_with($text, '-') ? $text : "+$text";
    }
}
