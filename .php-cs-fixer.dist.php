<?php

declare(strict_types=1);

$finder = (new PhpCsFixer\Finder())
    ->in(array_map(static fn (string $f): string => __DIR__.'/'.$f, ['app', 'bench', 'bootstrap', 'compat', 'config', 'core', 'database', 'routes', 'tests', 'tools']))
    ->notPath('node_modules');

return (new PhpCsFixer\Config())
    ->setRiskyAllowed(true)
    ->setCacheFile(__DIR__.'/.php-cs-fixer.cache')
    ->setRules([
        '@PER-CS2.0' => true,
        '@PHP82Migration' => true,
        'declare_strict_types' => true,
        'no_unused_imports' => true,
        'ordered_imports' => true,
        'single_quote' => true,
        'not_operator_with_successor_space' => true,
        'concat_space' => ['spacing' => 'none'],
        'method_argument_space' => ['on_multiline' => 'ignore'],
        'statement_indentation' => true,
        'trailing_comma_in_multiline' => ['elements' => ['arrays', 'arguments', 'parameters', 'match']],
        'blank_line_before_statement' => ['statements' => ['return', 'throw', 'continue']],
    ])
    ->setFinder($finder);
