<?php

declare(strict_types=1);

namespace Tests\Feature;

use Tests\Support\EventStream;
use Tests\Support\Wait;

/** Signing out holds, whatever the browser's other tabs had asked a moment before. */
final class SignOutTest extends DeskCase
{
    /** Requests of a page that are on their way while the session ends wrote it anew, and brought its cookie back. */
    public function testRequestsOnTheirWayDoNotSignInAgain(): void
    {
        $cookies = $this->signedIn();
        self::assertSame(200, $this->get('/api/accounts', $cookies)[0]);
        $page = $this->get('/', $cookies)[1];
        self::assertSame(1, preg_match('/name="csrf-token" content="([^"]+)"/', $page, $token));

        $all = curl_multi_init();
        $begun = [];
        foreach ([
            '/api/accounts', '/', '/api/positions', '/window', '/api/exit-plans', '/sign-out', '/api/settings', '/', '/api/levels',
            '/api/orders', '/window',
        ] as $path) {
            $begun[] = $one = $this->request($path, $cookies, $path === '/sign-out' ? ['_token' => $token[1]] : null);
            curl_multi_add_handle($all, $one);
        }
        do {
            curl_multi_exec($all, $running);
            curl_multi_select($all, 0.1);
        } while ($running > 0);
        foreach ($begun as $one) {
            curl_multi_remove_handle($all, $one);
        }

        self::assertSame(401, $this->get('/api/accounts', $cookies)[0]);
        self::assertSame(302, $this->get('/', $cookies)[0]);
    }

    /** The engine was starved for more than a second once, and the stream of a session that had ended went on for good. */
    public function testAStreamIsClosedThoughTheEngineIsSlowToAnswer(): void
    {
        $cookies = $this->signedIn();
        $page = $this->get('/', $cookies)[1];
        self::assertSame(1, preg_match('/name="csrf-token" content="([^"]+)"/', $page, $token));
        $asked = $this->request('/api/stream-ticket', $cookies, ['account' => (string) $this->trader->account]);
        curl_setopt($asked, CURLOPT_POSTFIELDS, json_encode(['account' => $this->trader->account], JSON_THROW_ON_ERROR));
        curl_setopt($asked, CURLOPT_HTTPHEADER, ['Content-Type: application/json', 'Accept: application/json', "Cookie: $cookies", "X-CSRF-TOKEN: $token[1]", "Origin: {$this->desk->url()}"]);
        $answer = (string) curl_exec($asked);
        self::assertSame(1, preg_match('/"ticket":"([^"]+)"/', $answer, $ticket), $answer);
        $stream = new EventStream($this->desk->streamPort, "/stream?ticket=$ticket[1]&contracts=DULZ6");
        $stream->await('heartbeat');
        $pid = $this->desk->enginePid();
        posix_kill($pid, SIGSTOP);
        try {
            $all = curl_multi_init();
            $out = $this->request('/sign-out', $cookies, ['_token' => $token[1]]);
            curl_multi_add_handle($all, $out);
            $since = microtime(true);
            do {
                curl_multi_exec($all, $running);
                curl_multi_select($all, 0.1);
                if (microtime(true) - $since > 1.5) {
                    posix_kill($pid, SIGCONT);
                }
            } while ($running > 0);
        } finally {
            posix_kill($pid, SIGCONT);
        }
        self::assertSame(302, curl_getinfo($out, CURLINFO_RESPONSE_CODE));
        Wait::until(static fn(): bool => $stream->isClosed(), 'the stream to end');
        self::assertSame(401, $this->get('/api/accounts', $cookies)[0]);
    }

    /** What cannot be closed is said, and nothing is half done. */
    public function testASilentEngineLeavesTheSessionAsItWas(): void
    {
        $cookies = $this->signedIn();
        $page = $this->get('/', $cookies)[1];
        self::assertSame(1, preg_match('/name="csrf-token" content="([^"]+)"/', $page, $token));
        $pid = $this->desk->enginePid();
        posix_kill($pid, SIGSTOP);
        try {
            $out = $this->request('/sign-out', $cookies, ['_token' => $token[1]]);
            $answer = (string) curl_exec($out);
            self::assertSame(503, curl_getinfo($out, CURLINFO_RESPONSE_CODE));
            self::assertStringContainsString('You are still signed in', $answer);
        } finally {
            posix_kill($pid, SIGCONT);
        }
        self::assertSame(200, $this->get('/api/accounts', $cookies)[0]);
    }

    public function testASessionInUseDoesNotGrowOld(): void
    {
        $cookies = $this->signedIn();
        $files = glob("{$this->desk->data}/web/framework/sessions/*") ?: [];
        foreach ($files as $file) {
            touch($file, time() - 3600);
        }
        $before = array_map(file_get_contents(...), $files);
        [, , $head] = $this->get('/api/accounts', $cookies);
        clearstatcache();
        self::assertCount(
            1,
            array_filter($files, static fn(string $file): bool => filemtime($file) > time() - 60),
            'one of them is in use',
        );
        self::assertSame($before, array_map(file_get_contents(...), $files), 'none was written');
        self::assertStringContainsString('Set-Cookie: lotrik_', $head, 'the cookie lives on too');
    }

    /** @return string cookies as the browser sends them */
    private function signedIn(): string
    {
        $answer = (string) curl_exec($this->request((string) parse_url($this->trader->link, PHP_URL_PATH), '', ['used' => 'once']));
        [$head] = explode("\r\n\r\n", $answer, 2);
        self::assertStringContainsString(' 302 ', strtok($head, "\r"));
        preg_match_all('/^Set-Cookie: ([^;]+)/mi', $head, $set);

        return implode('; ', $set[1]);
    }

    /** @return array{int, string, string} status, body and head */
    private function get(string $path, string $cookies): array
    {
        $curl = $this->request($path, $cookies, null);
        $answer = (string) curl_exec($curl);
        $length = (int) curl_getinfo($curl, CURLINFO_HEADER_SIZE);

        return [(int) curl_getinfo($curl, CURLINFO_RESPONSE_CODE), substr($answer, $length), substr($answer, 0, $length)];
    }

    /** @param array<string, string>|null $form */
    private function request(string $path, string $cookies, ?array $form): \CurlHandle
    {
        $curl = curl_init($this->desk->url($path));
        curl_setopt_array($curl, [CURLOPT_RETURNTRANSFER => true, CURLOPT_HEADER => true, CURLOPT_TIMEOUT => 15, CURLOPT_COOKIE => $cookies]
            + ($form === null ? [] : [CURLOPT_POSTFIELDS => http_build_query($form)]));

        return $curl;
    }
}
