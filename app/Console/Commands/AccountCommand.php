<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Demo\KestrelBay;
use App\Engine\Operation\Operation;
use App\Engine\Rpc\EngineClient;
use App\Models\User;
use Illuminate\Console\Command;

/** Makes users with a practice account each on a running desk, and prints each as one JSON line. */
final class AccountCommand extends Command
{
    private const MAX = 100;

    protected $signature = 'lotrik:account {--data=} {--name=} {--password=} {--count=1} {--loss-limit=}';

    protected $description = 'Open practice accounts, each with a user of its own';

    public function handle(EngineClient $engine): int
    {
        $count = (string) $this->option('count');
        if (! ctype_digit($count) || (int) $count < 1 || (int) $count > self::MAX) {
            $this->error("--count: found \"$count\", expected a whole number from 1 to ".self::MAX);

            return 2;
        }
        $limit = (string) $this->option('loss-limit');
        if ($limit !== '' && preg_match('/^[1-9]\d{0,6}(\.\d{2})?$/', $limit) !== 1) {
            $this->error("--loss-limit: found \"$limit\", expected an amount such as 500.00");

            return 2;
        }
        for ($i = 0; $i < (int) $count; $i++) {
            $this->line((string) json_encode($this->open($engine, $limit), JSON_UNESCAPED_SLASHES));
        }

        return 0;
    }

    /**
     * @param string $limit of the loss of a day, empty for the usual one
     *
     * @return array<string, mixed>
     */
    private function open(EngineClient $engine, string $limit): array
    {
        $tag = bin2hex(random_bytes(4));
        $name = (string) ($this->option('name') ?? "Trader $tag");
        $password = (string) ($this->option('password') ?? bin2hex(random_bytes(12)));
        $user = User::query()->create(['name' => $name, 'email' => "$tag@kestrel-bay.invalid", 'password' => $password]);
        $account = $engine->call(
            Operation::OpenAccount, ($limit === '' ? [] : ['daily_loss_limit' => $limit]) + KestrelBay::account($user->id, 'Practice'),
        )['body']['account'];

        return [
            'account' => $account, 'user' => $user->id, 'email' => $user->email, 'password' => $password,
            'token' => $user->createToken('console')->plainTextToken,
            'link' => '/enter/'.\App\Models\EntryLinkRow::issue($user),
        ];
    }
}
