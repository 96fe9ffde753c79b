<?php

declare(strict_types=1);

namespace Lotrik\Document;

/** The header row of a CSV file. Source: RFC 4180. */
final class TableHead
{
    /**
     * @param list<string> $needed
     * @param list<string> $optional
     *
     * @return list<string> the columns, in the order of the file
     *
     * @throws InvalidLine where one is missing, not known or there twice
     */
    public static function columns(string $name, string $line, array $needed, array $optional): array
    {
        $columns = array_map(
            static fn(?string $c): string => trim((string) $c),
            str_getcsv(preg_replace('/^\xEF\xBB\xBF/', '', $line) ?? '', ',', '"', ''),
        );
        if (
            array_diff($needed, $columns) !== []
            || array_diff($columns, $needed, $optional) !== []
            || count($columns) !== count(array_unique($columns))
        ) {
            throw InvalidLine::at(
                $name,
                1,
                'the header "'.implode(',', $columns).'"',
                implode(',', $needed).' and optionally '.implode(',', $optional),
            );
        }

        return $columns;
    }
}
