<?php

declare(strict_types=1);

return [
    'stateful' => [],
    // Tokens only: the page signs in with its session (Http/Middleware/Authenticated).
    'guard' => [],
    'expiration' => null,
    'token_prefix' => 'lotrik_',
];
