<?php

declare(strict_types=1);

namespace App\Engine\Rpc;

use App\Engine\EngineRefusal;
use App\Engine\Loop\Engine;
use App\Engine\Loop\Request;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;
use React\EventLoop\LoopInterface;
use React\Socket\ConnectionInterface;

/** The command socket: the engine says its build, then one JSON line each way. */
final class RpcServer
{
    private const MAX_LINE = 65_536;

    private bool $turnIsDue = false;

    public function __construct(private readonly LoopInterface $loop, private readonly Engine $engine, private readonly string $build) {}

    public function connected(ConnectionInterface $connection): void
    {
        $connection->write(json_encode(['v' => 1, 'build' => $this->build], JSON_THROW_ON_ERROR)."\n");
        $buffer = '';
        $connection->on('data', function (string $data) use ($connection, &$buffer): void {
            $buffer .= $data;
            while (($end = strpos($buffer, "\n")) !== false) {
                $line = substr($buffer, 0, $end);
                $buffer = substr($buffer, $end + 1);
                $this->line($connection, $line);
            }
            if (strlen($buffer) > self::MAX_LINE) {
                $connection->end(self::encode(['ok' => false, 'problem' => EngineRefusal::commandTooLarge(self::MAX_LINE)->toArray()]));
            }
        });
    }

    private function line(ConnectionInterface $connection, string $line): void
    {
        try {
            $request = Request::parse($line);
        } catch (\UnexpectedValueException $e) {
            $connection->write(self::encode([
                'ok' => false, 'problem' => (new Refusal(RefusalCode::BadRequest, $e->getMessage()))->toArray(),
            ]));

            return;
        }
        $this->engine->enqueue($request, static function (array $reply) use ($connection): void {
            $connection->write(self::encode($reply));
        });
        $this->turnSoon();
    }

    /** All calls that arrive in one go are one turn and one commit. */
    private function turnSoon(): void
    {
        if ($this->turnIsDue) {
            return;
        }
        $this->turnIsDue = true;
        $this->loop->futureTick(function (): void {
            $this->turnIsDue = false;
            $this->engine->turn();
            if ($this->engine->hasWork()) {
                $this->turnSoon();
            }
        });
    }

    /** @param array<string, mixed> $reply */
    private static function encode(array $reply): string
    {
        return json_encode($reply, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES)."\n";
    }
}
