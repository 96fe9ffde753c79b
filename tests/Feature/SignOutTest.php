<?php

declare(strict_types=1);

namespace Tests\Feature;

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
