<?php

declare(strict_types=1);

/* PHPUnit bootstrap that takes one class of the core from a broken copy (LOTRIK_BROKEN=class:file). */

[$class, $file] = explode(':', (string) getenv('LOTRIK_BROKEN'), 2);
require __DIR__.'/../../vendor/autoload.php';
spl_autoload_register(static function (string $wanted) use ($class, $file): void {
    if ($wanted === $class) {
        require $file;
    }
}, true, true);
