<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\JsonBody;
use App\Http\WebRefusal;
use App\Models\Setting;
use App\Settings\ActionKeys;
use App\Settings\Entry;
use App\Settings\KeyMap;
use App\Settings\Layouts;
use App\Settings\SettingsDocument;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Lotrik\Document\DocumentFault;
use Lotrik\Document\Node;
use Lotrik\Refusal\Refusal;

/** A user's own settings: keys, action keys, how orders are entered, layouts. Each is one document, taken whole or not at all. */
final class SettingsController extends ApiController
{
    public function index(Request $request): JsonResponse
    {
        $items = [];
        foreach ($this->all($request) as $name => $document) {
            $items[] = ['name' => $name, 'document' => $document];
        }

        return new JsonResponse(['items' => $items, 'next' => null]);
    }

    public function update(Request $request, string $name): JsonResponse
    {
        $kind = self::kinds()[$name] ?? throw WebRefusal::notFound("kind of settings \"$name\"", '/api/settings');
        try {
            $document = $kind->read(Node::of(JsonBody::of($request)), $this->all($request));
        } catch (DocumentFault $fault) {
            throw Refusal::unreadable($fault);
        }
        Setting::query()->updateOrCreate(['user_id' => $this->user($request)->id, 'name' => $name], ['document' => $document]);

        return new JsonResponse(['name' => $name, 'document' => $this->all($request)[$name]]);
    }

    /** @return array<string, SettingsDocument> */
    private static function kinds(): array
    {
        return ['keys' => new KeyMap(), 'action-keys' => new ActionKeys(), 'entry' => new Entry(), 'layouts' => new Layouts()];
    }

    /** @return array<string, array<string, mixed>> name → document, saved or by default */
    private function all(Request $request): array
    {
        $saved = Setting::query()->where('user_id', $this->user($request)->id)->get()->keyBy('name');
        $all = [];
        foreach (self::kinds() as $name => $kind) {
            // What has come since it was saved has its default.
            $all[$name] = ($saved->get($name)->document ?? []) + $kind->byDefault();
        }
        $all['keys']['keys'] = (array) $all['keys']['keys'] + (array) (new KeyMap())->byDefault()['keys'];
        // An empty object stays one.
        $all['entry']['contracts'] = (object) ($all['entry']['contracts'] ?? []);

        return $all;
    }
}
