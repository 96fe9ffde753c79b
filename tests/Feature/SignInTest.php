<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\Attributes\DataProvider;

/** The ways in: what strangers, prefetching programs and other people's mistakes cannot do. */
final class SignInTest extends DeskCase
{
    /**
     * @param array<string, string>|null $form
     * @param list<string>               $headers
     *
     * @return array{int, string, string} status, head and body
     */
    private function ask(string $path, ?array $form = null, array $headers = []): array
    {
        $curl = curl_init($this->desk->url($path));
        curl_setopt_array($curl, [
            CURLOPT_RETURNTRANSFER => true, CURLOPT_HEADER => true, CURLOPT_TIMEOUT => 15, CURLOPT_HTTPHEADER => $headers,
        ]
            + ($form === null ? [] : [CURLOPT_POSTFIELDS => http_build_query($form)]));
        [$head, $body] = explode("\r\n\r\n", (string) curl_exec($curl), 2);

        return [(int) curl_getinfo($curl, CURLINFO_RESPONSE_CODE), $head, $body];
    }

    /** @return array{int, string, string} */
    private function signIn(string $email, string $password, string ...$headers): array
    {
        return $this->ask('/sign-in', ['email' => $email, 'password' => $password], array_values($headers));
    }

    public function testAnEntryLinkIsUsedByItsButtonAndByNothingElse(): void
    {
        $path = (string) parse_url($this->trader->link, PHP_URL_PATH);
        for ($i = 0; $i < 3; $i++) {
            [$status, $head, $body] = $this->ask($path);
            self::assertSame(200, $status);
            self::assertStringNotContainsString('Set-Cookie', $head);
            self::assertStringContainsString("action=\"$path\"", $body);
        }
        [$status, $head] = $this->ask($path, ['button' => '1']);
        self::assertSame(302, $status);
        self::assertStringContainsString('Set-Cookie: lotrik_', $head);
        foreach ([null, ['button' => '1']] as $form) {
            [$status, $head, $body] = $this->ask($path, $form);
            self::assertSame(410, $status);
            self::assertStringNotContainsString('Set-Cookie', $head);
            self::assertStringContainsString('has been used', $body);
        }
    }

    public function testAnOpenLinkIsNeverHeldUpAndGuessedOnesAre(): void
    {
        $path = (string) parse_url($this->trader->link, PHP_URL_PATH);
        for ($i = 0; $i < 40; $i++) {
            self::assertSame(200, $this->ask($path)[0], "look $i");
        }
        $statuses = array_map(fn(int $guess): int => $this->ask("/enter/guess$guess")[0], range(1, 40));
        self::assertSame([410, 429], [$statuses[0], $statuses[39]]);
        self::assertSame(302, $this->ask($path, ['button' => '1'])[0]);
    }

    public function testAFailedSignInGoesNowhere(): void
    {
        foreach ([
            ['nobody@kestrel-bay.invalid', 'wrong'], [$this->trader->email, 'wrong'], ['', ''], [str_repeat('x', 500), 'wrong'],
            ["\xff", 'wrong'],
        ] as [$email, $password]) {
            [$status, $head, $body] = $this->signIn($email, $password, 'Referer: http://elsewhere.example/page');
            self::assertSame(422, $status);
            self::assertStringNotContainsString('Location', $head);
            self::assertStringNotContainsString('elsewhere', $head.$body);
            self::assertStringContainsString('do not go together', $body);
        }
    }

    public function testWrongTriesUnderOtherNamesLockNobodyOut(): void
    {
        for ($i = 0; $i < 12; $i++) {
            self::assertSame($i < 10 ? 422 : 429, $this->signIn("guess{$this->trader->account}@kestrel-bay.invalid", 'wrong')[0]);
        }
        [$status, $head] = $this->signIn($this->trader->email, $this->trader->password);
        self::assertSame(302, $status);
        self::assertStringContainsString('Set-Cookie: lotrik_', $head);
    }

    public function testWhoOnlyLooksLeavesNoSessionBehind(): void
    {
        $sessions = fn(): int => count(glob("{$this->desk->data}/web/framework/sessions/*") ?: []);
        $before = $sessions();
        foreach ([
            '/', '/sign-in', '/window', '/nowhere', '/api/accounts', (string) parse_url($this->trader->link, PHP_URL_PATH),
        ] as $path) {
            self::assertStringNotContainsString('Set-Cookie', $this->ask($path)[1], $path);
        }
        $this->signIn('nobody@kestrel-bay.invalid', 'wrong');
        self::assertSame($before, $sessions());
        $this->signIn($this->trader->email, $this->trader->password);
        self::assertSame($before + 1, $sessions());
    }

    /** @return iterable<array{string}> */
    public static function forms(): iterable
    {
        yield ['/sign-in'];
        yield ['/demo'];
        yield ['/enter/{link}'];
    }

    #[DataProvider('forms')]
    public function testAFormOnAForeignPageSignsNobodyIn(string $path): void
    {
        $path = str_replace('/enter/{link}', (string) parse_url($this->trader->link, PHP_URL_PATH), $path);
        $form = ['email' => $this->trader->email, 'password' => $this->trader->password];
        foreach (['http://elsewhere.example', 'null', 'http://127.0.0.1:1'] as $origin) {
            [$status, $head] = $this->ask($path, $form, ["Origin: $origin"]);
            self::assertSame(419, $status, $origin);
            self::assertStringNotContainsString('Set-Cookie', $head);
        }
        self::assertSame(302, $this->ask($path, $form, ['Origin: '.$this->desk->url()])[0]);
    }

    /** How long it takes shall not tell who is known: the same work is done for both. */
    public function testNobodysPasswordIsHashedLikeEverybodys(): void
    {
        $this->signIn('nobody@kestrel-bay.invalid', 'wrong');
        $known = (string) (new \PDO("sqlite:{$this->desk->data}/app.sqlite"))->query('SELECT password FROM users ORDER BY id DESC LIMIT 1')->fetchColumn();
        exec(
            'grep -rhoE '.escapeshellarg('\\$2y\\$[0-9]{2}\\$[./A-Za-z0-9]{53}').' '
                .escapeshellarg("{$this->desk->data}/web/framework/cache"),
            $nobodys,
        );
        self::assertCount(1, $nobodys);
        self::assertSame(password_get_info($known), password_get_info($nobodys[0]));
    }

    /** A token that is used a hundred times a second is not written a hundred times a second. */
    public function testWhenATokenWasLastUsedIsNotedOnceAMinute(): void
    {
        $database = new \PDO("sqlite:{$this->desk->data}/app.sqlite");
        $database->exec('PRAGMA busy_timeout = 5000');
        $hash = hash('sha256', explode('|', $this->trader->token, 2)[1]);
        $used = static function (?int $secondsAgo) use ($database, $hash): int {
            if ($secondsAgo !== null) {
                $database->exec("UPDATE personal_access_tokens SET last_used_at = '".gmdate(
                    'Y-m-d H:i:s',
                    time() - $secondsAgo,
                )."' WHERE token = '$hash'");
            }

            return time() - (int) strtotime($database->query("SELECT last_used_at FROM personal_access_tokens WHERE token = '$hash'")->fetchColumn().' UTC');
        };
        $used(30);
        $this->trader->call('GET', 'accounts');
        self::assertGreaterThanOrEqual(30, $used(null), 'half a minute ago is near enough');
        $used(120);
        $this->trader->call('GET', 'accounts');
        self::assertLessThan(30, $used(null));
    }
}
