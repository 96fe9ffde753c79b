<?php

declare(strict_types=1);

namespace App\Providers;

use App\Engine\Rpc\EngineClient;
use App\Models\AccessToken;
use App\Models\AccountRow;
use App\Models\OrderRow;
use App\Models\User;
use App\Policies\AccountPolicy;
use App\Policies\OrderPolicy;
use Illuminate\Auth\Access\Response;
use Illuminate\Cache\RateLimiting\Limit;
use Illuminate\Http\Request;
use Illuminate\Routing\Route;
use Illuminate\Support\Facades\Gate;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\Facades\Route as RouteFacade;
use Illuminate\Support\ServiceProvider;
use Laravel\Sanctum\Sanctum;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->bind(EngineClient::class, static fn(): EngineClient => new EngineClient(
            (string) config('lotrik.socket'),
            (string) config('lotrik.build'),
        ));
    }

    public function boot(): void
    {
        Route::macro('takes', function (string ...$names): Route {
            /** @var Route $this */
            return $this->setAction(['takes' => $names] + $this->getAction());
        });
        RateLimiter::for('api', static function (Request $request): Limit {
            return Limit::perMinute((int) config('lotrik.calls_a_minute'))->by((string) $request->user()?->getAuthIdentifier());
        });
        Sanctum::usePersonalAccessTokenModel(AccessToken::class);
        // What is not there is refused in words, before a policy says whose it is.
        RouteFacade::bind('account', AccountRow::named(...));
        RouteFacade::bind('order', OrderRow::named(...));
        Gate::policy(AccountRow::class, AccountPolicy::class);
        Gate::policy(OrderRow::class, OrderPolicy::class);
        // It is one market for all: whoever moves it moves it through everybody's stops.
        Gate::define('steer-practice', static function (User $user): Response {
            return config('lotrik.open_practice') || $user->owns_desk
                ? Response::allow()
                : Response::deny('the practice market is everybody\'s, and only the owner of the desk steers it; '
                    .'bin/start --open-practice lets all');
        });
        Gate::define('lift-limits', static fn(User $user): Response => $user->owns_desk
            ? Response::allow()
            : Response::deny('only the owner of the desk lifts what a limit has stopped; it ends by itself with the next trading day'));
    }
}
