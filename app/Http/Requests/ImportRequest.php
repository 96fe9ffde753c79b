<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Http\WebRefusal;
use Lotrik\Contract\Contract;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\InvalidLine;
use Lotrik\Document\Node;
use Lotrik\Logbook\FillFile;
use Lotrik\Logbook\OutsideFill;
use Lotrik\Refusal\Refusal;

/** A file of fills from another program. */
final class ImportRequest extends CommandRequest
{
    protected const FILE = 'csv';

    /**
     * @param array<string, Contract> $contracts by code
     *
     * @return list<OutsideFill>
     *
     * @throws Refusal naming the line that cannot be read
     */
    public function fills(array $contracts): array
    {
        $node = Node::of($this->fields());
        try {
            $node->raw('account');
            $csv = $node->raw('csv');
            $fills = (new FillFile($contracts))->read(is_string($csv) ? $csv : throw $node->fault('csv', 'the lines of a CSV file'));
            $node->done();
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        } catch (InvalidLine $fault) {
            throw WebRefusal::line($fault, '/csv');
        }

        return $fills;
    }
}
