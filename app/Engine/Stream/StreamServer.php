<?php

declare(strict_types=1);

namespace App\Engine\Stream;

use App\Engine\Loop\ReadFault;
use GuzzleHttp\Psr7\Message;
use GuzzleHttp\Psr7\Query;
use Lotrik\Refusal\RefusalCode;
use Psr\Http\Message\RequestInterface;
use React\EventLoop\LoopInterface;
use React\Socket\ConnectionInterface;

/**
 * Server-sent events on the engine's own port: `GET /stream?ticket=…&contracts=…[&after=SEQUENCE][&trades=together]`.
 *
 * It answers nothing else. Hosts and origins are on a list; a head is at most 8 KiB and in within 5 seconds.
 */
final class StreamServer implements Fanout
{
    private const MAX_HEAD = 8192;

    private const HEAD_SECONDS = 5;

    private const MAX_STREAMS = 900;

    private const MAX_STREAMS_OF_USER = 32;

    /** @var \SplObjectStorage<ConnectionInterface, Subscriber> */
    private \SplObjectStorage $subscribers;

    private RecentFrames $recent;

    private readonly WaitingBytes $budget;

    private ?Publisher $publisher = null;

    /**
     * @param list<string> $hosts   allowed values of Host
     * @param list<string> $origins allowed values of Origin
     */
    public function __construct(
        private readonly LoopInterface $loop,
        private readonly Tickets $tickets,
        int $startedAt,
        private readonly array $hosts,
        private readonly array $origins,
    ) {
        $this->subscribers = new \SplObjectStorage();
        $this->recent = new RecentFrames($startedAt);
        $this->budget = new WaitingBytes();
        $tickets->onRevoke(function (int $user, string $session): void {
            foreach ($this->each() as $subscriber) {
                if ($subscriber->user === $user && ($session === '' || $subscriber->session === $session)) {
                    $subscriber->close();
                }
            }
        });
    }

    public function publishWith(Publisher $publisher): void
    {
        $this->publisher = $publisher;
    }

    public function connected(ConnectionInterface $connection): void
    {
        $head = '';
        $late = $this->loop->addTimer(self::HEAD_SECONDS, static fn() => $connection->close());
        $connection->on('close', function () use ($connection, $late): void {
            $this->loop->cancelTimer($late);
            if ($this->subscribers->contains($connection)) {
                $this->subscribers[$connection]->release();
                $this->subscribers->detach($connection);
            }
        });
        $connection->on('data', function (string $data) use ($connection, &$head, $late): void {
            if ($this->subscribers->contains($connection)) {
                return;
            }
            $head .= $data;
            if (strlen($head) > self::MAX_HEAD) {
                $this->refuse($connection, RefusalCode::HeadTooLarge, 'a request head of at most 8 KiB is read');
            } elseif (str_contains($head, "\r\n\r\n")) {
                $this->loop->cancelTimer($late);
                $this->open($connection, $head);
            }
        });
    }

    public function own(int $account, int $sequence, string $frames): void
    {
        $this->recent->add($account, $sequence, $frames);
        foreach ($this->each() as $subscriber) {
            if ($subscriber->account === $account) {
                $subscriber->send($frames);
            }
        }
    }

    public function market(string $contract, string $frames, ?string $together = null): void
    {
        foreach ($this->each() as $subscriber) {
            if (isset($subscriber->contracts[$contract])) {
                $subscriber->offer($subscriber->together ? $together ?? $frames : $frames);
            }
        }
    }

    public function takesTrades(string $contract, bool $together): bool
    {
        foreach ($this->each() as $subscriber) {
            if ($subscriber->together === $together && isset($subscriber->contracts[$contract])) {
                return true;
            }
        }

        return false;
    }

    public function mark(int $account, string $frame): void
    {
        foreach ($this->each() as $subscriber) {
            if ($subscriber->account === $account) {
                $subscriber->offer($frame);
            }
        }
    }

    public function all(string $frame): void
    {
        foreach ($this->each() as $subscriber) {
            $subscriber->offer($frame);
        }
    }

    public function isWatched(string $contract): bool
    {
        foreach ($this->each() as $subscriber) {
            if (isset($subscriber->contracts[$contract])) {
                return true;
            }
        }

        return false;
    }

    public function accounts(): array
    {
        $accounts = [];
        foreach ($this->each() as $subscriber) {
            $accounts[$subscriber->account] = $subscriber->account;
        }

        return array_values($accounts);
    }

    private function open(ConnectionInterface $connection, string $head): void
    {
        try {
            $request = Message::parseRequest($head);
        } catch (\Throwable) {
            $this->refuse($connection, RefusalCode::BadRequest, 'the request could not be read as HTTP');

            return;
        }
        $origin = $request->getHeaderLine('Origin');
        if (! in_array(
            strtolower($request->getHeaderLine('Host')),
            $this->hosts,
            true,
        ) || ($origin !== '' && ! in_array($origin, $this->origins, true))) {
            $this->refuse($connection, RefusalCode::Forbidden, 'this host or origin is not on the list of this server');

            return;
        }
        if ($request->getMethod() !== 'GET' || $request->getUri()->getPath() !== '/stream') {
            $this->refuse(
                $connection,
                $request->getMethod() === 'GET' ? RefusalCode::NotFound : RefusalCode::MethodNotAllowed,
                'only GET /stream is answered here',
                $origin,
            );

            return;
        }
        if (count($this->subscribers) >= self::MAX_STREAMS) {
            $this->refuse($connection, RefusalCode::TooManyStreams, 'too many streams are open; try again later', $origin);

            return;
        }
        try {
            $this->subscribe($connection, $request, $origin);
        } catch (\Throwable $fault) {
            ReadFault::log('a stream that was opened', $fault);
            $connection->close();
        }
    }

    public function startAnew(int $sequence): void
    {
        // Those who come back with what they heard last are told how things are, not what came after it.
        $this->recent = new RecentFrames($sequence);
        foreach ($this->each() as $subscriber) {
            $subscriber->close();
        }
    }

    private function subscribe(ConnectionInterface $connection, RequestInterface $request, string $origin): void
    {
        // A name that stands there twice comes as a list: it counts as not given.
        $query = array_filter(Query::parse($request->getUri()->getQuery()), is_string(...));
        $ticket = $this->tickets->redeem($query['ticket'] ?? '');
        if ($ticket === null) {
            $this->refuse(
                $connection,
                RefusalCode::TicketNotValid,
                'the ticket is unknown, used or older than 30 seconds; ask for a new one with POST /api/stream-ticket',
                $origin,
            );

            return;
        }
        $contracts = array_values(array_unique(array_filter(explode(',', $query['contracts'] ?? ''))));
        $publisher = $this->publisher;
        assert($publisher !== null);
        $unknown = $publisher->unknown($contracts);
        if ($unknown !== null) {
            $this->refuse(
                $connection,
                RefusalCode::UnknownContract,
                "no contract $unknown is listed; GET /api/contracts lists them",
                $origin,
            );

            return;
        }
        $own = count(array_filter($this->each(), static fn(Subscriber $s): bool => $s->user === $ticket['user']));
        if ($own >= self::MAX_STREAMS_OF_USER) {
            $this->refuse(
                $connection,
                RefusalCode::TooManyStreams,
                'you have '.self::MAX_STREAMS_OF_USER.' streams open, which is as many as one user may have; close some of them',
                $origin,
            );

            return;
        }
        $after = $request->getHeaderLine('Last-Event-ID') ?: $query['after'] ?? '';
        $connection->write("HTTP/1.1 200 OK\r\nContent-Type: text/event-stream\r\nCache-Control: no-store, "
            ."no-transform\r\nX-Accel-Buffering: no\r\nX-Content-Type-Options: nosniff\r\n".self::cors($origin)
                ."Connection: close\r\n\r\n");
        $subscriber = new Subscriber(
            $connection, $this->budget, $ticket['user'], $ticket['account'], $ticket['session'], array_fill_keys($contracts, true),
            ($query['trades'] ?? '') === 'together',
        );
        $this->subscribers->attach($connection, $subscriber);
        $missed = preg_match('/^\d{1,15}$/', $after) ? $this->missed($ticket['account'], (int) $after) : null;
        if ($missed === null) {
            $subscriber->send($publisher->state($ticket['account'], $contracts, $after !== ''));
        } else {
            $subscriber->send($missed);
            $this->pictures($subscriber);
        }
        $connection->on('drain', function () use ($subscriber): void {
            $subscriber->caughtUp();
            $this->pictures($subscriber);
        });
    }

    private function pictures(Subscriber $subscriber): void
    {
        foreach (array_keys($subscriber->contracts) as $contract) {
            $subscriber->offer((string) $this->publisher?->picture($contract));
        }
    }

    /** @return string|null own events after a sequence; null where they are no longer all at hand */
    private function missed(int $account, int $after): ?string
    {
        return $after > ($this->publisher?->sequence() ?? 0) ? null : $this->recent->after($account, $after);
    }

    private function refuse(ConnectionInterface $connection, RefusalCode $code, string $detail, string $origin = ''): void
    {
        $body = (string) json_encode([
            'type' => 'about:blank', 'title' => $code->title(), 'status' => $code->status(), 'code' => $code->value, 'detail' => $detail,
        ]);
        $connection->end("HTTP/1.1 {$code->status()} {$code->title()}\r\nContent-Type: application/problem+json\r\nContent-Length: "
            .strlen($body)."\r\n".self::cors($origin)."Connection: close\r\n\r\n$body");
    }

    private static function cors(string $origin): string
    {
        return $origin === '' ? '' : "Access-Control-Allow-Origin: $origin\r\nVary: Origin\r\n";
    }

    /** @return list<Subscriber> */
    private function each(): array
    {
        $subscribers = [];
        foreach ($this->subscribers as $connection) {
            $subscribers[] = $this->subscribers[$connection];
        }

        return $subscribers;
    }
}
