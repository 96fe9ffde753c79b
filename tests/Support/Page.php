<?php

declare(strict_types=1);

namespace Tests\Support;

use Facebook\WebDriver\Chrome\ChromeDevToolsDriver;
use Facebook\WebDriver\Chrome\ChromeOptions;
use Facebook\WebDriver\Remote\DesiredCapabilities;
use Facebook\WebDriver\Remote\DriverCommand;
use Facebook\WebDriver\Remote\RemoteWebDriver;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverElement;

/** The real page in headless Chromium, at exactly 1280x800 unless said otherwise. */
final class Page
{
    /** @var resource|null */
    private static $chromedriver;

    private static int $port = 0;

    /** @var list<self> pages that stay open until the process ends */
    private static array $kept = [];

    private string $profile;

    public RemoteWebDriver $driver;

    public function __construct(private readonly string $base, private readonly int $width = 1280, private readonly int $height = 800)
    {
        self::startDriver();
        $this->profile = sys_get_temp_dir().'/lotrik-browser-'.bin2hex(random_bytes(4));
        $options = new ChromeOptions();
        $options->addArguments(['--headless=new', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking',
            '--disable-component-update', '--disable-features=BackForwardCache', '--disable-sync', '--disable-dev-shm-usage', "--user-data-dir={$this->profile}"]);
        $wanted = DesiredCapabilities::chrome();
        $wanted->setCapability(ChromeOptions::CAPABILITY, $options);
        $wanted->setCapability('goog:loggingPrefs', ['browser' => 'ALL']);
        $this->driver = RemoteWebDriver::create('http://127.0.0.1:'.self::$port, $wanted, 60_000, 180_000);
        $this->size($width, $height);
    }

    public function size(int $width, int $height): self
    {
        (new ChromeDevToolsDriver($this->driver))->execute(
            'Emulation.setDeviceMetricsOverride',
            ['width' => $width, 'height' => $height, 'deviceScaleFactor' => 1, 'mobile' => false],
        );

        return $this;
    }

    public function open(string $address): self
    {
        $this->driver->get(str_starts_with($address, 'http') ? $address : $this->base.$address);
        // A link that has been used shows no button.
        if (str_contains($address, '/enter/') && $this->count('form[action^="/enter/"] button') === 1) {
            $this->find('form[action^="/enter/"] button')->click();
        }

        return $this;
    }

    /** The first of them, once there is one: a busy page draws what a key has opened a moment later. */
    public function find(string $css): WebDriverElement
    {
        $this->await(fn(): bool => $this->count($css) > 0, $css);

        return $this->driver->findElement(WebDriverBy::cssSelector($css));
    }

    public function count(string $css): int
    {
        return count($this->driver->findElements(WebDriverBy::cssSelector($css)));
    }

    public function text(string $css): string
    {
        $text = $this->run('return document.querySelector(arguments[0])?.textContent ?? ""', $css);

        return is_string($text) ? trim($text) : '';
    }

    public function run(string $script, mixed ...$arguments): mixed
    {
        return $this->driver->executeScript($script, $arguments);
    }

    public function await(callable $condition, string $what, float $seconds = 30): void
    {
        try {
            Wait::until(function () use ($condition): bool {
                try {
                    return (bool) $condition();
                } catch (\Facebook\WebDriver\Exception\StaleElementReferenceException|\Facebook\WebDriver\Exception\NoSuchElementException) {
                    return false;
                }
            }, $what, $seconds);
        } catch (\RuntimeException $fault) {
            throw new \RuntimeException("{$fault->getMessage()} (the page says: {$this->text('[data-field=said]')})", 0, $fault);
        }
    }

    public function awaitText(string $css, string $text): void
    {
        try {
            $this->await(fn(): bool => str_contains($this->text($css), $text), "\"$text\" in $css");
        } catch (\RuntimeException $fault) {
            throw new \RuntimeException("{$fault->getMessage()}, and $css has: {$this->text($css)}", 0, $fault);
        }
    }

    /** For a state that may be over before anybody can ask: sees each one that comes while something is done. */
    public function awaitPassing(string $css, string $text, callable $act): void
    {
        $this->run(
            'window.passed = false; new MutationObserver((_, observer) => { if (!document.querySelector(arguments[0])?.textContent.includes(arguments[1])) return; window.passed = true; observer.disconnect(); }).observe(document.body, {subtree: true, childList: true, characterData: true})',
            $css,
            $text,
        );
        $act();
        $this->await(fn(): bool => $this->run('return window.passed') === true, "\"$text\" to have been in $css");
    }

    /** Until the page has drawn what the journal had at this sequence. */
    public function awaitSequence(int $sequence): void
    {
        $this->await(
            fn(): bool => (int) $this->run('return document.querySelector("[data-sequence]")?.dataset.sequence ?? 0') >= $sequence,
            "sequence $sequence drawn",
        );
    }

    public function awaitLive(): self
    {
        try {
            $this->await(fn(): bool => $this->text('[data-field=feed]') === 'live' && $this->count('[data-part=rung]') > 10, 'a live ladder', 30);
        } catch (\RuntimeException $fault) {
            $shows = mb_substr((string) $this->run('return document.body?.innerText.replace(/\\s+/g, " ") ?? ""'), 0, 300);

            throw new \RuntimeException(
                "{$fault->getMessage()} at {$this->driver->getCurrentURL()}, which shows: $shows; complaints: "
                    .implode(' | ', $this->complaints()),
                0,
                $fault,
            );
        }

        return $this;
    }

    /** Centre of an element in the window. @return array{int, int} */
    public function middle(string $css): array
    {
        $box = $this->run(
            'const b = document.querySelector(arguments[0]).getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2]',
            $css,
        );

        return [(int) $box[0], (int) $box[1]];
    }

    /** @param list<array<string, mixed>> $actions of one mouse, W3C WebDriver */
    public function mouse(array $actions): void
    {
        $this->driver->execute(
            DriverCommand::ACTIONS,
            ['actions' => [['type' => 'pointer', 'id' => 'mouse', 'parameters' => ['pointerType' => 'mouse'], 'actions' => $actions]]],
        );
    }

    /** Opens one of the lower lists. */
    public function tab(string $name): void
    {
        $this->run(
            'const tab = [...document.querySelectorAll("[data-part=dock-tab]")].find((t) => t.textContent.startsWith(arguments[0])); for (const type of ["pointerdown", "mousedown", "pointerup", "mouseup", "click"]) tab.dispatchEvent(new (type.startsWith("pointer") ? PointerEvent : MouseEvent)(type, {bubbles: true, button: 0}))',
            $name,
        );
    }

    public function pointAt(string $css): void
    {
        [$x, $y] = $this->middle($css);
        $this->mouse([['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y]]);
    }

    public function press(): void
    {
        $this->mouse([['type' => 'pointerDown', 'button' => 0], ['type' => 'pointerUp', 'button' => 0]]);
    }

    /** Holds a key down for so many ms. */
    public function holdKey(string $key, int $ms): void
    {
        $this->driver->execute(DriverCommand::ACTIONS, ['actions' => [['type' => 'key', 'id' => 'keys', 'actions' => [
            ['type' => 'keyDown', 'value' => $key], ['type' => 'pause', 'duration' => $ms], ['type' => 'keyUp', 'value' => $key],
        ]]]]);
    }

    public function picture(string $file): void
    {
        $this->driver->takeScreenshot($file);
    }

    /** @return list<string> entries that a healthy page does not write; reading empties the log */
    public function complaints(): array
    {
        return array_values(array_map(
            static fn(array $entry): string => $entry['message'],
            array_filter(
                $this->driver->manage()->getLog('browser'),
                // A busy engine turns a long question down rather than keep what closes waiting; the page asks it again by itself.
                static fn(array $entry): bool => $entry['level'] === 'SEVERE'
                    && preg_match('~/api/exit-plans/noise - .* status of 503 ~', $entry['message']) !== 1,
            ),
        ));
    }

    /** As a browser that was never here: no cookie, nothing stored, one window of the first size, an empty page. */
    public function forget(): self
    {
        $handles = $this->driver->getWindowHandles();
        foreach (array_slice($handles, 1) as $other) {
            $this->driver->switchTo()->window($other)->close();
        }
        $this->driver->switchTo()->window($handles[0]);
        // What a tab keeps goes by no other way.
        $this->run('try { sessionStorage.clear() } catch {}');
        // Of another origin: the next page gets a process of its own, and none that grows from test to test.
        $this->driver->get('about:blank');
        $tools = new ChromeDevToolsDriver($this->driver);
        $tools->execute('Network.clearBrowserCookies');
        $tools->execute('Storage.clearDataForOrigin', ['origin' => $this->base, 'storageTypes' => 'all']);
        $this->complaints();

        return $this->size($this->width, $this->height);
    }

    /** Closed when the process ends, before the driver is. */
    public function keep(): self
    {
        self::$kept[] = $this;

        return $this;
    }

    public function close(): void
    {
        $this->driver->quit();
        exec('rm -rf '.escapeshellarg($this->profile));
    }

    private static function startDriver(): void
    {
        if (self::$chromedriver !== null) {
            return;
        }
        $socket = stream_socket_server('tcp://127.0.0.1:0');
        assert($socket !== false);
        self::$port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
        $process = proc_open(
            ['chromedriver', '--port='.self::$port],
            [['file', '/dev/null', 'r'], ['file', '/dev/null', 'w'], ['file', '/dev/null', 'w']],
            $pipes,
        );
        assert($process !== false);
        self::$chromedriver = $process;
        register_shutdown_function(static function () use ($process): void {
            array_map(static fn(self $page) => $page->close(), self::$kept);
            proc_terminate($process);
        });
        Wait::until(static fn(): bool => @stream_socket_client('tcp://127.0.0.1:'.self::$port) !== false, 'chromedriver');
    }
}
