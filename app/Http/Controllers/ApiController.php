<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Engine\Operation\Operation;
use App\Engine\Rpc\EngineClient;
use App\Http\Page;
use App\Http\Requests\ApiRequest;
use App\Http\Requests\CommandRequest;
use Illuminate\Http\JsonResponse;

/** What the controllers of the API share: the engine, asked or told in the name of whoever asks. */
abstract class ApiController
{
    public function __construct(protected readonly EngineClient $engine) {}

    /** @param array<string, mixed> $more what the address says */
    protected function command(CommandRequest $request, Operation $op, array $more = []): JsonResponse
    {
        $engine = $this->engine->for($request->trader(), $request->account()->id);
        $reply = $engine->call($op, $more + $request->command(), $request->fingerprintOf($op->value, $more));

        return new JsonResponse($reply['body'], $reply['status']);
    }

    /** @param array<array-key, mixed> $body */
    protected function ask(ApiRequest $request, Operation $op, array $body = []): JsonResponse
    {
        return new JsonResponse($this->engine->for($request->trader(), $request->account()->id)->call($op, $body)['body']);
    }

    /** @param array<mixed> $items all that there are */
    protected static function whole(array $items): JsonResponse
    {
        return new JsonResponse(['items' => $items, 'next' => null, 'sequence' => Page::sequence()]);
    }
}
