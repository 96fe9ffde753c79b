<?php

declare(strict_types=1);

namespace App\Providers;

use App\Engine\Rpc\EngineClient;
use Illuminate\Support\ServiceProvider;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->bind(EngineClient::class, static fn(): EngineClient => new EngineClient(
            (string) config('lotrik.socket'),
            (string) config('lotrik.build'),
        ));
    }
}
