<?php

declare(strict_types=1);

namespace Tests\Support;

use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Validator;

/** The OpenAPI document: says whether an answer is what it describes. */
final class ApiDescription
{
    private const ADDRESS = 'https://lotrik.invalid/openapi.json';

    private readonly Validator $validator;

    /** @var array<string, mixed> */
    private readonly array $document;

    public function __construct()
    {
        $file = dirname(__DIR__, 2).'/docs/openapi.json';
        $this->document = json_decode((string) file_get_contents($file), true, 512, JSON_THROW_ON_ERROR);
        $this->validator = new Validator();
        $this->validator->resolver()?->registerFile(self::ADDRESS, $file);
    }

    /** @return string|null what is wrong with an answer, null where it is as described */
    public function complaint(string $method, string $path, int $status, string $body): ?string
    {
        $path = '/api/'.strtok($path, '?');
        foreach ($this->document['paths'] as $template => $operations) {
            $pattern = '~^'.preg_replace('~\\\{\w+\\\}~', '[^/]+', preg_quote($template, '~')).'$~';
            // An address that is described as it is comes before one with a place for anything.
            if (! preg_match($pattern, $path) || (isset($this->document['paths'][$path]) && $template !== $path)) {
                continue;
            }
            $operation = $operations[strtolower($method)] ?? null;
            if ($operation === null) {
                return $status === 405 ? null : "$method $template is not described";
            }
            $response = $operation['responses'][(string) $status] ?? $operation['responses']['default'];
            $schema = (string) current(array_map(static fn(array $c): string => $c['schema']['$ref'], $response['content']));
            $result = $this->validator->validate(json_decode($body), self::ADDRESS.$schema);

            return $result->isValid()
                ? null
                : "$method $template answered $status with ".json_encode((new ErrorFormatter())->format($result->error(), false))
                    ." in $body";
        }

        return $status === 404 ? null : "$path is not described";
    }

    /** @return string|null what is wrong with the data of an event of the stream */
    public function eventComplaint(string $event, string $data): ?string
    {
        $schema = $this->document['components']['schemas']['StreamEvents']['properties'][$event]['$ref'] ?? null;
        if ($schema === null) {
            return "the event $event is not described";
        }
        $result = $this->validator->validate(json_decode($data), self::ADDRESS.$schema);

        return $result->isValid() ? null : "event $event: ".json_encode((new ErrorFormatter())->format($result->error(), false))." in $data";
    }
}
