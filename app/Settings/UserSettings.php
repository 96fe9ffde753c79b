<?php

declare(strict_types=1);

namespace App\Settings;

use App\Models\SettingRow;
use App\Models\User;

/** All settings of one user: what was saved, and what stands where nothing was. */
final readonly class UserSettings
{
    public function __construct(private User $user) {}

    /** @return array<string, SettingsDocument> */
    public static function kinds(): array
    {
        return ['keys' => new KeyMap(), 'action-keys' => new ActionKeys(), 'entry' => new Entry(), 'layouts' => new Layouts()];
    }

    /** @return array<string, array<string, mixed>> name → document, saved or by default */
    public function all(): array
    {
        $saved = SettingRow::query()->where('user_id', $this->user->id)->get()->keyBy('name');
        $all = [];
        foreach (self::kinds() as $name => $kind) {
            // What has come since it was saved has its default.
            $all[$name] = ($saved->get($name)->document ?? []) + $kind->byDefault();
        }
        $all['keys']['keys'] = KeyMap::withNew((array) $all['keys']['keys'], array_column((array) $all['action-keys']['tiles'], 'key'));
        // An empty object stays one.
        $all['entry']['contracts'] = (object) ($all['entry']['contracts'] ?? []);

        return $all;
    }

    /** @param array<string, mixed> $document */
    public function save(string $name, array $document): void
    {
        SettingRow::query()->updateOrCreate(['user_id' => $this->user->id, 'name' => $name], ['document' => $document]);
    }
}
