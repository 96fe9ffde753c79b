<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Http\WebRefusal;
use App\Settings\UserSettings;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Refusal\Refusal;

/** One of a user's settings, as a whole document. */
final class SettingRequest extends ApiRequest
{
    public function name(): string
    {
        return (string) $this->route('name');
    }

    /**
     * @return array<string, mixed> the document
     *
     * @throws Refusal
     */
    public function document(UserSettings $settings): array
    {
        $kind = UserSettings::kinds()[$this->name()] ?? throw WebRefusal::notFound("kind of settings \"{$this->name()}\"", '/api/settings');
        try {
            return $kind->read(Node::of($this->fields()), $settings->all());
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }
    }
}
