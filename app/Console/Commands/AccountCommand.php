<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Demo\KestrelBay;
use App\Engine\Rpc\EngineClient;
use App\Models\User;
use Illuminate\Console\Command;

/** Makes users with a practice account each on a running desk, and prints each as one JSON line. */
final class AccountCommand extends Command
{
    private const MAX = 100;

    protected $signature = 'lotrik:account {--data=} {--name=} {--password=} {--count=1}';

    protected $description = 'Open practice accounts, each with a user of its own';

    public function handle(EngineClient $engine): int
    {
        $count = (string) $this->option('count');
        if (! ctype_digit($count) || (int) $count < 1 || (int) $count > self::MAX) {
            $this->error("--count: found \"$count\", expected a whole number from 1 to ".self::MAX);

            return 2;
        }
        for ($i = 0; $i < (int) $count; $i++) {
            $this->line((string) json_encode($this->open($engine), JSON_UNESCAPED_SLASHES));
        }

        return 0;
    }

    /** @return array<string, mixed> */
    private function open(EngineClient $engine): array
    {
        $tag = bin2hex(random_bytes(4));
        $name = (string) ($this->option('name') ?? "Trader $tag");
        $password = (string) ($this->option('password') ?? bin2hex(random_bytes(12)));
        $user = User::query()->create(['name' => $name, 'email' => "$tag@kestrel-bay.invalid", 'password' => $password]);
        $account = $engine->call('open-account', KestrelBay::account($user->id, 'Practice'))['body']['account'];

        return [
            'account' => $account, 'user' => $user->id, 'email' => $user->email, 'password' => $password,
            'token' => $user->createToken('console')->plainTextToken,
            'link' => '/enter/'.\App\Models\EntryLink::issue($user),
        ];
    }
}
