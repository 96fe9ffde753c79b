<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\ApiRequest;
use App\Http\Requests\SettingRequest;
use App\Settings\UserSettings;
use Illuminate\Http\JsonResponse;

/** A user's own settings: keys, action keys, how orders are entered, layouts. Each is one document, taken whole or not at all. */
final class SettingsController extends ApiController
{
    public function index(ApiRequest $request): JsonResponse
    {
        $all = (new UserSettings($request->trader()))->all();
        $items = array_map(
            static fn(string $name, array $document): array => ['name' => $name, 'document' => $document],
            array_keys($all),
            $all,
        );

        return new JsonResponse(['items' => $items, 'next' => null]);
    }

    public function update(SettingRequest $request): JsonResponse
    {
        $settings = new UserSettings($request->trader());
        $settings->save($request->name(), $request->document($settings));

        return new JsonResponse(['name' => $request->name(), 'document' => $settings->all()[$request->name()]]);
    }
}
