<?php

declare(strict_types=1);

namespace App\Settings;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;

/** A kind of settings document: what it says before it was ever saved, and what may stand in it. */
interface SettingsDocument
{
    /** @return array<string, mixed> */
    public function byDefault(): array;

    /**
     * @param array<string, array<string, mixed>> $others the user's other documents, by name
     *
     * @return array<string, mixed> the document as it is kept
     *
     * @throws InvalidDocument naming what is wrong and what would be right
     */
    public function read(Node $document, array $others): array;
}
