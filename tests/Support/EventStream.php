<?php

declare(strict_types=1);

namespace Tests\Support;

/** Reads server-sent events off a raw socket, as little of a client as will do. */
final class EventStream
{
    /** @var resource */
    private $socket;

    private static ?ApiDescription $description = null;

    private string $buffer = '';

    public string $head = '';

    /** @var list<array{event: string, id: string|null, data: array<array-key, mixed>}> all that has come so far */
    public array $events = [];

    /** @param array<string, string> $headers */
    public function __construct(int $port, string $target, array $headers = [], string $method = 'GET')
    {
        $socket = stream_socket_client("tcp://127.0.0.1:$port", $code, $message, 5);
        assert($socket !== false);
        $this->socket = $socket;
        $lines = '';
        foreach ($headers + ['Host' => "127.0.0.1:$port"] as $name => $value) {
            $lines .= "$name: $value\r\n";
        }
        fwrite($socket, "$method $target HTTP/1.1\r\n$lines\r\n");
        stream_set_blocking($socket, false);
        Wait::until(function (): bool {
            $this->read();

            return str_contains($this->buffer, "\r\n\r\n");
        }, 'a response head');
        [$this->head, $this->buffer] = explode("\r\n\r\n", $this->buffer, 2);
    }

    public static function of(Trader $trader, RunningDesk $desk, string $query = ''): self
    {
        $ticket = $trader->call('POST', 'stream-ticket', ['account' => $trader->account])->body['ticket'];

        return new self($desk->streamPort, "/stream?ticket=$ticket&contracts=DULZ6$query");
    }

    public function status(): int
    {
        return (int) explode(' ', $this->head)[1];
    }

    /**
     * Waits for an event.
     *
     * @param callable(array<array-key, mixed>): bool|null $like
     *
     * @return array{event: string, id: string|null, data: array<array-key, mixed>}
     */
    public function await(string $event, ?callable $like = null): array
    {
        $found = null;
        Wait::until(function () use ($event, $like, &$found): bool {
            $this->read();
            $this->parse();
            foreach ($this->events as $one) {
                if ($one['event'] === $event && ($like === null || $like($one['data']))) {
                    $found = $one;

                    return true;
                }
            }

            return false;
        }, "event $event (came: ".implode(', ', array_column($this->events, 'event')).')');

        return $found;
    }

    public function close(): void
    {
        fclose($this->socket);
    }

    public function isClosed(): bool
    {
        $this->read();

        return feof($this->socket);
    }

    private function read(): void
    {
        $this->buffer .= (string) stream_get_contents($this->socket);
    }

    private function parse(): void
    {
        while (($end = strpos($this->buffer, "\n\n")) !== false) {
            $frame = ['event' => 'message', 'id' => null, 'data' => ''];
            foreach (explode("\n", substr($this->buffer, 0, $end)) as $line) {
                [$name, $value] = explode(': ', $line, 2) + [1 => ''];
                $frame[$name] = $value;
            }
            $this->buffer = substr($this->buffer, $end + 2);
            self::$description ??= new ApiDescription();
            $complaint = self::$description->eventComplaint($frame['event'], $frame['data']);
            if ($complaint !== null) {
                throw new \RuntimeException($complaint);
            }
            $this->events[] = ['data' => json_decode($frame['data'], true, 512, JSON_THROW_ON_ERROR)] + $frame;
        }
    }
}
