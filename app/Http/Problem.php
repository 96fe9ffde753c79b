<?php

declare(strict_types=1);

namespace App\Http;

use App\Engine\Rpc\EngineUnavailable;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Http\JsonResponse;
use Illuminate\Session\TokenMismatchException;
use Lotrik\Desk\Refusal;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;

/** Every error of the API as a problem document. Source: RFC 9457. */
final readonly class Problem
{
    private const STATUS = [
        'invalid-json' => 400, 'unauthenticated' => 401, 'forbidden' => 403, 'not-found' => 404, 'unknown-account' => 404,
        'client-id-reused' => 409, 'client-id-forgotten' => 409, 'plan-in-use' => 409, 'name-taken' => 409, 'version-changed' => 409, 'would-unprotect' => 409, 'order-final' => 409, 'order-busy' => 409, 'flattening' => 409,
        'too-large' => 413, 'csrf' => 419, 'too-many-commands' => 429, 'busy' => 503, 'deadline' => 503,
    ];

    /** @param array<string, mixed> $facts further members */
    private function __construct(private int $status, private string $code, private string $detail, private ?string $pointer = null, private array $facts = []) {}

    public static function of(\Throwable $e): self
    {
        return match (true) {
            $e instanceof Refusal => new self(self::STATUS[$e->problem] ?? 422, $e->problem, $e->getMessage(), $e->pointer, $e->facts),
            $e instanceof EngineUnavailable => new self(503, $e->problem, $e->getMessage()),
            $e instanceof AuthenticationException => new self(401, 'unauthenticated', 'sign in, or send a bearer token (php artisan lotrik:token prints one)'),
            $e instanceof TokenMismatchException => new self(419, 'csrf', 'the page is too old; reload it'),
            $e instanceof HttpExceptionInterface => self::ofStatus($e->getStatusCode(), $e->getMessage()),
            default => new self(500, 'fault', 'something is wrong on our side; it was logged'),
        };
    }

    public function response(): JsonResponse
    {
        return new JsonResponse(
            ['type' => 'about:blank', 'title' => ucfirst(str_replace('-', ' ', $this->code)), 'status' => $this->status, 'code' => $this->code, 'detail' => $this->detail]
            + ($this->pointer === null ? [] : ['pointer' => $this->pointer]) + $this->facts,
            $this->status,
            ['Content-Type' => 'application/problem+json'],
            JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES,
        );
    }

    private static function ofStatus(int $status, string $message): self
    {
        return match ($status) {
            400 => new self(400, 'bad-request', 'the request could not be read; GET /api/openapi.json says how they look'),
            403 => new self(403, 'forbidden', $message),
            404 => new self(404, 'not-found', 'there is nothing at this address; GET /api/openapi.json lists what there is'),
            405 => new self(405, 'method-not-allowed', 'this address does not take that method; GET /api/openapi.json lists what there is'),
            419 => new self(419, 'csrf', 'the page is too old; reload it'),
            421 => new self(421, 'unknown-host', $message),
            429 => new self(429, 'too-many-requests', 'too many tries; wait a minute'),
            default => new self($status, 'http-'.$status, $message === '' ? 'the request was refused' : $message),
        };
    }
}
