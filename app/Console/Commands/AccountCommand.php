<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Demo\KestrelBay;
use App\Engine\Rpc\EngineClient;
use App\Models\User;
use Illuminate\Console\Command;

/** Makes a user with a practice account on a running desk, and prints them as one JSON line. */
final class AccountCommand extends Command
{
    protected $signature = 'lotrik:account {--data=} {--name=} {--password=}';

    protected $description = 'Open a practice account with a user of its own';

    public function handle(EngineClient $engine): int
    {
        $tag = bin2hex(random_bytes(4));
        $name = (string) ($this->option('name') ?? "Trader $tag");
        $password = (string) ($this->option('password') ?? bin2hex(random_bytes(12)));
        $user = User::query()->create(['name' => $name, 'email' => "$tag@kestrel-bay.invalid", 'password' => $password]);
        $account = $engine->call('open-account', KestrelBay::account($user->id, 'Practice'))['body']['account'];
        $this->line((string) json_encode([
            'account' => $account, 'user' => $user->id, 'email' => $user->email, 'password' => $password,
            'token' => $user->createToken('console')->plainTextToken,
            'link' => '/enter/'.\App\Models\EntryLink::issue($user),
        ], JSON_UNESCAPED_SLASHES));

        return 0;
    }
}
