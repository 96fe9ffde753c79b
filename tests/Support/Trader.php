<?php

declare(strict_types=1);

namespace Tests\Support;

/** Talks to the API as one trader's script does. */
final class Trader
{
    private static int $ids = 0;

    private static ?ApiDescription $description = null;

    public function __construct(
        private readonly RunningDesk $desk,
        public readonly int $account,
        public readonly string $token,
        public readonly string $link,
        public readonly string $email,
        public readonly string $password,
    ) {}

    /** @param array<array-key, mixed>|string|null $body a string goes as it is */
    public function call(string $method, string $path, array|string|null $body = null, ?string $token = null): Reply
    {
        $curl = curl_init($this->desk->url('/api/'.$path));
        $token ??= $this->token;
        curl_setopt_array($curl, [
            CURLOPT_CUSTOMREQUEST => $method, CURLOPT_RETURNTRANSFER => true, CURLOPT_TIMEOUT => 15,
            CURLOPT_HTTPHEADER => [
                'Accept: application/json', 'Content-Type: application/json', ...($token === '' ? [] : ["Authorization: Bearer $token"]),
            ],
        ] + ($body === null ? [] : [CURLOPT_POSTFIELDS => is_string($body) ? $body : json_encode(
            $body,
            JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION,
        )]));
        $text = (string) curl_exec($curl);
        $reply = new Reply(
            curl_getinfo($curl, CURLINFO_RESPONSE_CODE),
            json_decode($text, true) ?? [],
            (string) curl_getinfo($curl, CURLINFO_CONTENT_TYPE),
        );
        curl_close($curl);
        // Every answer that a test gets is checked against the OpenAPI document.
        $complaint = (self::$description ??= new ApiDescription())->complaint($method, $path, $reply->status, $text);
        if ($complaint !== null) {
            throw new \RuntimeException($complaint);
        }

        return $reply;
    }

    public static function id(): string
    {
        return 'test-'.getmypid().'-'.++self::$ids;
    }

    /** @param array<string, mixed> $fields */
    public function place(array $fields): Reply
    {
        return $this->call('POST', 'orders', $fields + ['client_id' => self::id(), 'account' => $this->account]);
    }

    public function push(string $contract, int $ticks): Reply
    {
        return $this->call('POST', "practice/$contract", ['push_ticks' => $ticks]);
    }

    /** The paused market takes steps: a few hundred a command, since a slow machine has no more time for one. */
    public function steps(string $contract, int $steps): void
    {
        for ($left = $steps; $left > 0; $left -= 250) {
            $reply = $this->call('POST', "practice/$contract", ['steps' => min($left, 250)]);
            if ($reply->status !== 200) {
                throw new \RuntimeException("the market took no steps: {$reply->body['detail']}");
            }
        }
    }

    /** @return list<array<string, mixed>> */
    public function working(): array
    {
        return $this->call('GET', "orders?state=working&account={$this->account}")->body['items'];
    }

    /** @return array<string, mixed>|null */
    public function position(string $contract): ?array
    {
        foreach ($this->call('GET', "positions?account={$this->account}")->body['items'] as $position) {
            if ($position['contract'] === $contract) {
                return $position;
            }
        }

        return null;
    }

    /** @return list<string> triggers of the working stops, sorted */
    public function stops(): array
    {
        $stops = array_values(array_filter(array_map(
            static fn(array $o): ?string => $o['role'] === 'stop' ? $o['trigger'] : null,
            $this->working(),
        )));
        sort($stops);

        return $stops;
    }
}
