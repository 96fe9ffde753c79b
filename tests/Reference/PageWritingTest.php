<?php

declare(strict_types=1);

namespace Tests\Reference;

use App\Demo\KestrelBay;
use Lotrik\Order\Side;
use Lotrik\Position\PnlLine;
use Lotrik\Position\Position;
use PHPUnit\Framework\TestCase;

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
                $vectors[] = [
                    'contract' => ['tick_size' => (string) $contract->tickSize, 'price_scale' => $contract->scale(), 'display' => $contract->display->toArray()],
                    'tick' => $tick, 'pnl' => $line->toArray(), 'minor' => $contract->currency->minorUnit,
                    'price' => $contract->price($tick), 'shown' => $contract->write($tick), 'money' => $contract->money($position->openTicks($tick))->display(true), 'exact' => $contract->money($position->openTicks($tick))->exact(),
                ];
            }
        }
        $root = dirname(__DIR__, 2);
        $out = sys_get_temp_dir().'/lotrik-ts-'.getmypid();
        exec('cd '.escapeshellarg($root).' && npx tsc --ignoreConfig --target es2023 --module esnext --moduleResolution bundler --skipLibCheck --noCheck --outDir '.escapeshellarg($out).' resources/js/desk/prices.ts 2>&1', $lines, $status);
        self::assertSame(0, $status, implode("\n", $lines));
        $compiled = trim((string) shell_exec('find '.escapeshellarg($out).' -name prices.js'));
        file_put_contents("$out/check.mjs", "import { readFileSync } from 'node:fs';\nconst p = await import('file://$out/prices.mjs');\nfor (const v of JSON.parse(readFileSync('$out/vectors.json', 'utf8')))\n  console.log(JSON.stringify([p.price(v.contract, v.tick), p.writePrice(v.contract, v.tick), p.writeMoney(p.pnlAt(v.pnl, v.tick), v.pnl.scale, v.minor), p.writeExact(v.exact, v.minor)]));\n");
        copy($compiled, "$out/prices.mjs");
        file_put_contents("$out/vectors.json", json_encode($vectors, JSON_THROW_ON_ERROR));
        exec('node '.escapeshellarg("$out/check.mjs").' 2>&1', $written, $status);
        self::assertSame(0, $status, implode("\n", $written));
        foreach ($vectors as $i => $vector) {
            self::assertSame([$vector['price'], $vector['shown'], $vector['money'], $vector['money']], json_decode($written[$i], true), json_encode($vector, JSON_UNESCAPED_UNICODE) ?: '');
        }
        exec('rm -rf '.escapeshellarg($out));
    }
}
