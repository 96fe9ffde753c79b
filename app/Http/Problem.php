<?php

declare(strict_types=1);

namespace App\Http;

use App\Engine\Rpc\EngineUnavailable;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Http\JsonResponse;
use Illuminate\Session\TokenMismatchException;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;

/** Every error of the API as a problem document. Source: RFC 9457. */
final readonly class Problem
{
    /** @param array<string, mixed> $facts further members */
    private function __construct(
        private RefusalCode $code,
        private string $detail,
        private ?string $pointer = null,
        private array $facts = [],
    ) {}

    public static function of(\Throwable $e): self
    {
        return match (true) {
            $e instanceof Refusal => new self($e->problem, $e->getMessage(), $e->pointer, $e->facts),
            $e instanceof EngineUnavailable => new self($e->problem, $e->getMessage()),
            $e instanceof AuthenticationException => new self(
                RefusalCode::Unauthenticated,
                'sign in, or send a bearer token (php artisan lotrik:token prints one)',
            ),
            $e instanceof TokenMismatchException => new self(RefusalCode::PageTooOld, 'the page is too old; reload it'),
            $e->getPrevious() instanceof AuthorizationException => self::ofPolicy($e->getPrevious()),
            $e instanceof HttpExceptionInterface => self::ofStatus($e->getStatusCode(), $e->getMessage()),
            self::isFullDisk($e) => new self(
                RefusalCode::OutcomeUnknown,
                'the disk of the server is full; it may have been done or not: send the same client_id again once there is room, '
                    .'to find out',
            ),
            default => new self(RefusalCode::Fault, 'something is wrong on our side; it was logged'),
        };
    }

    /** Whether a database or a file took no more, before the engine was asked or after. Source: SQLite, "Result and Error Codes" (SQLITE_FULL is 13). */
    private static function isFullDisk(\Throwable $e): bool
    {
        return ($e instanceof \PDOException && ($e->errorInfo[1] ?? 0) === 13) || str_contains($e->getMessage(), 'No space left on device');
    }

    public function response(): JsonResponse
    {
        return new JsonResponse(
            [
                'type' => 'about:blank', 'title' => $this->code->title(), 'status' => $this->code->status(), 'code' => $this->code->value,
                'detail' => $this->detail,
            ]
            + ($this->pointer === null ? [] : ['pointer' => $this->pointer]) + $this->facts,
            $this->code->status(),
            ['Content-Type' => 'application/problem+json'],
            JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES,
        );
    }

    /** What a policy or a gate forbids; where it is somebody else's it says that there is no such thing. */
    private static function ofPolicy(AuthorizationException $fault): self
    {
        return new self(RefusalCode::tryFrom((string) $fault->response()->code()) ?? RefusalCode::Forbidden, $fault->getMessage());
    }

    private static function ofStatus(int $status, string $message): self
    {
        return match ($status) {
            403 => new self(RefusalCode::Forbidden, $message),
            404 => new self(RefusalCode::NotFound, 'there is nothing at this address; GET /api/openapi.json lists what there is'),
            405 => new self(
                RefusalCode::MethodNotAllowed,
                'this address does not take that method; GET /api/openapi.json lists what there is',
            ),
            413 => new self(RefusalCode::TooLarge, 'the body is larger than the server takes; send a shorter one'),
            419 => new self(RefusalCode::PageTooOld, 'the page is too old; reload it'),
            421 => new self(RefusalCode::UnknownHost, $message),
            429 => new self(RefusalCode::TooManyRequests, 'too many tries; wait a minute'),
            default => $status < 500
                ? new self(RefusalCode::BadRequest, 'the request could not be read; GET /api/openapi.json says how they look')
                : new self(RefusalCode::Fault, $message === '' ? 'something is wrong on our side; it was logged' : $message),
        };
    }
}
