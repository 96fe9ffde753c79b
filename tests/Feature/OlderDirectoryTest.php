<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Engine\Journal\Head;
use App\Engine\Journal\JournalDamaged;
use App\Engine\Loop\EngineBoot;
use App\Engine\View\FillView;
use App\Engine\View\OrderView;
use App\Http\Resources\AccountResource;
use App\Http\Resources\ContractResource;
use App\Models\AccountRow;
use App\Models\ContractRow;
use App\Models\FillRow;
use App\Models\OrderRow;
use Illuminate\Http\Request;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Order\DeskOrder;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\JournalFile;

/** A data directory that an older build left opens, with every order and position where it was; one that was tampered with does not. */
final class OlderDirectoryTest extends TestCase
{
    private string $folder = '';

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/lotrik-older-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        exec('rm -rf '.escapeshellarg($this->folder));
    }

    /** @return iterable<string, array{string}> */
    public static function directories(): iterable
    {
        foreach (glob(__DIR__.'/golden/*.sqlite.gz') ?: [] as $file) {
            yield basename($file, '.sqlite.gz') => [$file];
        }
    }

    private function unpack(string $file): void
    {
        file_put_contents("$this->folder/journal.sqlite", gzdecode((string) file_get_contents($file)));
        $this->prepare();
    }

    private function prepare(): void
    {
        exec(
            escapeshellarg(PHP_BINARY).' '.escapeshellarg(dirname(__DIR__, 2).'/artisan').' lotrik:prepare --data='
                .escapeshellarg($this->folder).' 2>&1',
            $out,
            $status,
        );
        self::assertSame(0, $status, implode("\n", $out));
    }

    private function boot(): EngineBoot
    {
        $journal = JournalFile::open($this->folder);

        return EngineBoot::from($journal, "$this->folder/desk.checkpoint", 'this-build', 1, null, 0);
    }

    #[DataProvider('directories')]
    public function testItOpensAndTradesOn(string $file): void
    {
        $this->unpack($file);
        $expected = json_decode((string) file_get_contents(str_replace('.sqlite.gz', '.json', $file)), true, 512, JSON_THROW_ON_ERROR);
        $boot = $this->boot();
        $state = $boot->system->desk->state;
        $account = $expected['account'];
        $positions = $working = [];
        foreach ($state->holdings as $code => $holdings) {
            $holding = $holdings[$account] ?? null;
            if ($holding !== null) {
                $positions[$code] = $holding->position->lots;
                $working += array_map(
                    static fn(DeskOrder $o): array => [
                        'role' => $o->role->value, 'level' => $o->level(), 'leaves' => $o->leaves(), 'state' => $o->state->value,
                        'contract' => $o->contract,
                    ],
                    $holding->working,
                );
            }
        }
        self::assertEquals($expected['positions'], $positions);
        self::assertEquals($expected['working'], $working);
        self::assertNotEmpty($boot->system->desk->quote('DULZ6')->prints->all(), 'what traded is there too');
        $before = $state->sequence;
        for ($i = 0; $i < 200; $i++) {
            $boot->system->step($boot->clock->at($boot->system->steps() + 1));
        }
        $code = array_key_first($expected['positions']);
        $boot->system->handle(
            'flatten',
            $account,
            ['client_id' => 'anew', 'account' => $account, 'contract' => $code],
            'f',
            $boot->clock->at($boot->system->steps()),
        );
        self::assertSame([0, []], [$state->holding($account, $code)->position->lots, $state->holding($account, $code)->working]);
        self::assertGreaterThan($before, $state->sequence);
    }

    /** What its tables answered in JSON they answer from typed columns: every order, fill, account and contract. */
    #[DataProvider('directories')]
    public function testItsTablesAnswerAsTheyDid(string $file): void
    {
        file_put_contents("$this->folder/journal.sqlite", gzdecode((string) file_get_contents($file)));
        $pdo = new \PDO("sqlite:$this->folder/journal.sqlite");
        self::holdAnOrder($pdo);
        $before = [];
        foreach (['orders' => 'id', 'fills' => 'id', 'accounts' => 'id', 'contracts' => 'code'] as $table => $key) {
            foreach ($pdo->query("SELECT $key, body FROM $table") as [$id, $body]) {
                $before[$table][$id] = json_decode((string) $body, true, 512, JSON_THROW_ON_ERROR);
            }
        }
        $pdo = null;
        $this->prepare();
        JournalFile::open($this->folder);
        $contracts = ContractRow::on('engine')->get()->keyBy('code')->map(static fn(ContractRow $row): Contract => $row->contract());
        $request = new Request();
        $now = [
            'orders' => OrderRow::on('engine')->get()->keyBy('id')->map(static fn(OrderRow $row): array => OrderView::of(
                $row->getAttributes(),
                $contracts[$row->contract_code],
                $contracts[$row->watched_code] ?? null,
            )),
            'fills' => FillRow::on('engine')->get()->keyBy('id')->map(static fn(FillRow $row): array => FillView::of(
                $row->getAttributes(),
                $contracts[$row->contract_code],
            )),
            'accounts' => AccountRow::on('engine')->get()
                ->keyBy('id')->map(static fn(AccountRow $row): array => AccountResource::make($row)->resolve($request)),
            'contracts' => ContractRow::on('engine')->get()
                ->keyBy('code')->map(static fn(ContractRow $row): array => ContractResource::make($row)->resolve($request)),
        ];
        foreach ($before as $table => $rows) {
            self::assertCount(count($rows), $now[$table]);
            foreach ($rows as $id => $row) {
                $found = json_decode((string) json_encode($now[$table][$id]), true);
                self::assertSame($row, array_intersect_key($found, $row), "$table $id");
                // These two are worked out of what was there.
                $unknown = array_diff_key($found, $row, ['root' => 1, 'counts_from' => 1]);
                self::assertEmpty(array_filter($unknown), 'what its build did not know is not invented');
            }
        }
        self::assertSame('DULZ6 at or below 401.50', $now['orders'][9_999]['held_until']);
    }

    /** A kill in the middle of it, or a row that cannot be read, leaves the tables as they were: the next start begins anew. */
    public function testAMigrationThatDoesNotComeToItsEndChangesNothing(): void
    {
        file_put_contents("$this->folder/journal.sqlite", gzdecode((string) file_get_contents(__DIR__.'/golden/version-2.sqlite.gz')));
        $pdo = new \PDO("sqlite:$this->folder/journal.sqlite");
        $whole = (string) $pdo->query('SELECT body FROM orders ORDER BY id DESC LIMIT 1')->fetchColumn();
        $rows = static fn(): array => array_map(
            static fn(string $table): int => (int) $pdo->query("SELECT COUNT(body) FROM $table")->fetchColumn(),
            ['orders', 'fills', 'accounts', 'contracts'],
        );
        $before = $rows();
        $pdo->exec("UPDATE orders SET body = replace(body, 'created_at', 'no time') WHERE id = (SELECT MAX(id) FROM orders)");
        $prepare = escapeshellarg(PHP_BINARY).' '.escapeshellarg(dirname(__DIR__, 2).'/artisan').' lotrik:prepare --data='.escapeshellarg($this->folder);
        exec("$prepare 2>&1", $out, $status);
        self::assertNotSame(0, $status);
        self::assertSame($before, $rows(), 'each table is as it was');
        $pdo->prepare('UPDATE orders SET body = ? WHERE id = (SELECT MAX(id) FROM orders)')->execute([$whole]);
        $pdo = null;
        $this->prepare();
        self::assertGreaterThan(0, JournalFile::open($this->folder)->lastAt());
    }

    /** The web's own database likewise: here a table stands in the way of the fourth of its migrations. */
    public function testWhatStopsAFirstStartLeavesNothingHalfMade(): void
    {
        $pdo = new \PDO("sqlite:$this->folder/app.sqlite");
        $pdo->exec('CREATE TABLE marked_levels (id INTEGER)');
        $prepare = escapeshellarg(PHP_BINARY).' '.escapeshellarg(dirname(__DIR__, 2).'/artisan').' lotrik:prepare --data='.escapeshellarg($this->folder);
        exec("$prepare 2>&1", $out, $status);
        self::assertNotSame(0, $status);
        $tables = $pdo->query("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'");
        self::assertSame(['marked_levels'], $tables->fetchAll(\PDO::FETCH_COLUMN));
        $pdo->exec('DROP TABLE marked_levels');
        $tables = $pdo = null;
        $this->prepare();
    }

    /** An order that waits at the desk, as an older build wrote it: what it waits for stood in words only, and in its event. */
    private static function holdAnOrder(\PDO $pdo): void
    {
        $body = json_decode(
            (string) $pdo->query('SELECT body FROM orders ORDER BY id DESC LIMIT 1')->fetchColumn(),
            true,
            512,
            JSON_THROW_ON_ERROR,
        );
        $body = array_replace($body, [
            'id' => 9_999, 'contract' => 'DULZ6', 'kind' => 'stop-limit', 'quantity' => 2, 'filled' => 0, 'leaves' => 2,
            'price' => '401.00', 'trigger' => '402.00', 'average_price' => null, 'state' => 'suspended',
            'role' => 'entry', 'plan' => null, 'portion' => null, 'steering' => null, 'ahead' => null, 'ended_at' => null, 'reason' => null,
            'level' => 804, 'words' => 'stop-limit · held', 'held_until' => 'DULZ6 at or below 401.50',
        ]);
        $pdo->prepare("INSERT INTO orders (id, account, contract, state, working, body) VALUES (9999, ?, 'DULZ6', 'suspended', 1, ?)")->execute([
            $body['account'],
            json_encode($body),
        ]);
        $placed = [
            'order' => 9_999, 'hold' => ['releaseAt' => null, 'contract' => 'DULZ6', 'level' => 803, 'rising' => false, 'after' => null],
        ];
        $pdo->prepare("INSERT INTO journal (sequence, at, step, account, contract, type, version, words, body, previous_hash, hash) VALUES (999999, 0, 0, ?, 'DULZ6', 'order-placed', 1, '', ?, '', '')")->execute([
            $body['account'],
            json_encode($placed),
        ]);
    }

    /** @return iterable<string, array{callable(\PDO, string): void, string}> what is done to it, and what is said at the start */
    public static function damages(): iterable
    {
        yield 'a changed row' => [
            static fn(\PDO $pdo) => $pdo->exec("UPDATE journal SET body = replace(body, '\"quantity\":3', '\"quantity\":9') WHERE type = 'order-placed' AND body LIKE '%\"quantity\":3%'"),
            '/^journal row \d+: found it changed since it was written .*put the data directory back from a copy/',
        ];
        yield 'a changed row whose own hash was made to fit' => [static function (\PDO $pdo): void {
            $row = $pdo->query('SELECT * FROM journal WHERE sequence = 20')->fetch(\PDO::FETCH_ASSOC);
            $fields = [
                20, (int) $row['at'], (int) $row['step'], $row['account'], $row['contract'], $row['type'], (int) $row['version'],
                $row['command_id'], 'other words', $row['body'],
            ];
            $hash = hash('sha256', $row['previous_hash']."\n".json_encode($fields, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES));
            $pdo->prepare("UPDATE journal SET words = 'other words', hash = ? WHERE sequence = 20")->execute([$hash]);
        }, '/^journal row 21: found it changed/'];
        yield 'a row taken out' => [
            static fn(\PDO $pdo) => $pdo->exec('DELETE FROM journal WHERE sequence = 30'), '/^journal row 31: found a gap before it/',
        ];
        yield 'the last row taken out' => [
            static fn(\PDO $pdo) => $pdo->exec('DELETE FROM journal WHERE sequence = (SELECT MAX(sequence) FROM journal)'),
            '/^journal: found \d+ as its last row, expected at least \d+, which was acknowledged/',
        ];
        yield 'another history of the same length' => [
            static fn(\PDO $pdo)
                => $pdo->exec("UPDATE journal SET hash = '".str_repeat('0', 64)."' WHERE sequence = (SELECT MAX(sequence) FROM journal)"),
            '/^journal row \d+: found another row than the one that was acknowledged/',
        ];
        yield 'pages overwritten' => [static function (\PDO $pdo, string $file): void {
            $pdo = null;
            $handle = fopen($file, 'r+');
            assert($handle !== false);
            for ($page = 1; $page < 60; $page++) {
                fseek($handle, $page * 4096);
                fwrite($handle, random_bytes(4096));
            }
            fclose($handle);
        }, '/^journal: found a database that cannot be read/'];
    }

    /** @param callable(\PDO, string): void $damage */
    #[DataProvider('damages')]
    public function testWhatDoesNotFitStopsTheStartInOneLine(callable $damage, string $says): void
    {
        $this->unpack(__DIR__.'/golden/version-1.sqlite.gz');
        $file = "$this->folder/journal.sqlite";
        $last = (new \PDO("sqlite:$file"))->query('SELECT sequence, hash FROM journal ORDER BY sequence DESC LIMIT 1')->fetch(\PDO::FETCH_NUM);
        (new Head("$this->folder/journal.head"))->write((int) $last[0], $last[1]);
        $this->boot();
        $damage(new \PDO("sqlite:$file"), $file);
        try {
            $this->boot();
            self::fail('it started');
        } catch (JournalDamaged $damaged) {
            self::assertMatchesRegularExpression($says, $damaged->getMessage());
            self::assertStringNotContainsString("\n", $damaged->getMessage());
        }
    }
}
