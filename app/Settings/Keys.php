<?php

declare(strict_types=1);

namespace App\Settings;

use Lotrik\Document\InvalidDocument;

/**
 * Names of keys, as the page writes them: small letters and signs as they are, else the key's own name (UI Events
 * KeyboardEvent key values, W3C), with Ctrl+, Alt+ and Shift+ before it. Shift counts only with named keys.
 */
final class Keys
{
    private const NAMED = [
        'Enter', 'Escape', 'Backspace', 'Delete', 'Insert', 'Home', 'End', 'PageUp', 'PageDown', 'ArrowUp', 'ArrowDown', 'ArrowLeft',
        'ArrowRight', 'Space',
    ];

    /** What the browser or the desk itself needs, and why. */
    private const TAKEN = [
        'ArrowUp' => 'the arrow keys point at rungs', 'ArrowDown' => 'the arrow keys point at rungs',
        'ArrowLeft' => 'the arrow keys point at rungs', 'ArrowRight' => 'the arrow keys point at rungs',
        'd' => 'D held makes a draft of a click', 'F5' => 'the browser reloads the page with it',
        'F11' => 'the browser fills the screen with it', 'F12' => 'the browser opens its tools with it',
        'F1' => 'the browser opens its help with it', 'F3' => 'the browser searches with it',
        'F6' => 'the browser goes to its address field with it', 'F7' => 'the browser asks about its caret with it',
        'F10' => 'the browser opens its menu with it',
        'Alt+ArrowLeft' => 'the browser goes back with it', 'Alt+ArrowRight' => 'the browser goes forward with it',
        'Alt+Home' => 'the browser goes home with it', 'Alt+F4' => 'it closes the window',
    ];

    /** @throws InvalidDocument where it is no key, or one that is needed for something else */
    public static function read(mixed $key, string $pointer): string
    {
        if (! is_string($key) || ! preg_match(
            '/^(Ctrl\+)?(Alt\+)?(Shift\+)?(\S|F([1-9]|1\d|2[0-4])|'.implode('|', self::NAMED).')$/u',
            $key,
        )) {
            throw InvalidDocument::at($pointer, InvalidDocument::show($key), 'a key such as "x", "F13", "Alt+ArrowUp" or "Shift+Enter"');
        }
        $why = self::TAKEN[$key] ?? (preg_match(
            '/^Ctrl\+(Shift\+)?[a-z0-9+-]$/i',
            $key,
        ) ? 'the browser has its own use for Ctrl with letters, digits, + and -' : null);
        if ($why !== null) {
            throw InvalidDocument::at($pointer, "\"$key\"", "another key: $why");
        }

        return $key;
    }
}
