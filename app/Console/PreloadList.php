<?php

declare(strict_types=1);

namespace App\Console;

use App\Engine\Rpc\EngineClient;
use App\Http\Middleware\KeepSession;
use App\Http\Middleware\PageToken;
use App\Http\Requests\OneOrderRequest;
use App\Http\Resources\OrderResource;
use App\Models\AccessToken;
use App\Models\User;
use Illuminate\Container\Container;
use Illuminate\Contracts\Http\Kernel;
use Illuminate\Cookie\Middleware\AddQueuedCookiesToResponse;
use Illuminate\Cookie\Middleware\EncryptCookies;
use Illuminate\Http\Request;
use Illuminate\Session\FileSessionHandler;
use Illuminate\Session\Store;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\Facade;
use Laravel\Sanctum\Guard;

/**
 * The classes that answering a request takes, for PHP's web server to have ready (opcache.preload): some 400 of them,
 * which each request would else look for one by one. Found by answering requests, so that no list grows old.
 */
final class PreloadList
{
    /** What the requests below do not come by: they are asked before the engine runs, and by nobody's token or session. */
    private const ALSO = [
        EngineClient::class, AccessToken::class, Guard::class, EncryptCookies::class, AddQueuedCookiesToResponse::class,
        KeepSession::class, PageToken::class, Store::class, FileSessionHandler::class, OneOrderRequest::class, OrderResource::class,
    ];

    /** Only commands need these. */
    private const NOT_FOR_REQUESTS = ['/Console/', '/Migrations/', '/database/migrations/', '/symfony/console/'];

    public static function write(Kernel $kernel, User $user, string $file): void
    {
        // What made the caches has left an application of its own behind the facades: these requests go to this one.
        Container::setInstance($kernel->getApplication());
        Facade::clearResolvedInstances();
        Facade::setFacadeApplication($kernel->getApplication());
        foreach ([['GET', 'accounts', '{}'], ['POST', 'orders', '{}'], ['GET', 'orders?state=final', '{}']] as [$method, $path, $body]) {
            Auth::guard('sanctum')->setUser($user);
            $request = Request::create("/api/$path", $method, server: [
                'HTTP_AUTHORIZATION' => 'Bearer none', 'CONTENT_TYPE' => 'application/json', 'HTTP_HOST' => 'localhost',
            ], content: $body);
            $kernel->handle($request);
        }
        array_map(class_exists(...), self::ALSO);
        $files = array_unique(array_map(self::fileOf(...), self::preloadable()));
        $list = implode(",\n", array_map(static fn(string $path): string => var_export($path, true), $files));
        file_put_contents("$file.new", "<?php\narray_map(opcache_compile_file(...), array_filter([$list], is_file(...)));\n");
        rename("$file.new", $file);
    }

    /** @return list<class-string> classes that can be known before anything runs, each with all that it is made of */
    private static function preloadable(): array
    {
        $functions = array_map(
            static fn(string $name): string => (string) (new \ReflectionFunction($name))->getFileName(),
            get_defined_functions()['user'],
        );
        $user = array_filter(
            [...get_declared_interfaces(), ...get_declared_traits(), ...get_declared_classes()],
            static fn(string $class): bool => self::fileOf($class) !== '',
        );
        $kept = array_flip(array_filter($user, static fn(string $class): bool => ! in_array(self::fileOf($class), $functions, true)
            && ! self::isForCommands($class) && self::isDeclaredOutright($class)));
        do {
            $before = count($kept);
            $kept = array_filter($kept, static fn(string $class): bool => array_filter(
                [...class_parents($class) ?: [], ...class_implements($class) ?: [], ...class_uses($class) ?: []],
                static fn(string $part): bool => self::fileOf($part) !== '' && ! isset($kept[$part]),
            ) === [], ARRAY_FILTER_USE_KEY);
        } while (count($kept) < $before);

        return array_keys($kept);
    }

    /** @param class-string $class */
    private static function isForCommands(string $class): bool
    {
        return array_filter(self::NOT_FOR_REQUESTS, static fn(string $part): bool => str_contains(self::fileOf($class), $part)) !== [];
    }

    /**
     * Not within an `if`, which only running the file could decide.
     *
     * @param class-string $class
     */
    private static function isDeclaredOutright(string $class): bool
    {
        $name = preg_quote((new \ReflectionClass($class))->getShortName(), '/');

        return preg_match("/^(?:[a-z]+ )*(class|interface|trait|enum) $name\\b/m", (string) file_get_contents(self::fileOf($class))) === 1;
    }

    /**
     * @param class-string $class
     *
     * @return string empty for PHP's own
     */
    private static function fileOf(string $class): string
    {
        return (string) (new \ReflectionClass($class))->getFileName();
    }
}
