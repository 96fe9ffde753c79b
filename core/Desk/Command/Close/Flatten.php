<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Close;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Flatten\ClosingDown;
use Lotrik\Desk\Flatten\ClosingTrigger;
use Lotrik\Document\Node;

/** Flattens one contract, or all of the account. */
final class Flatten implements Command
{
    public function __construct(private readonly CommandContext $context, private readonly bool $wholeAccount = false) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $contracts = $this->wholeAccount ? array_values($this->context->state->contracts) : [$this->context->contractOf($body)];
        $body->done();
        $starts = [];
        $codes = [];
        foreach ($contracts as $contract) {
            $holding = $this->context->state->holding($command->account->id, $contract->code);
            if ($holding->position->lots !== 0 || $holding->working !== [] || $holding->isClosingDown()) {
                $codes[] = $contract->code;
                // A second press continues; on top of a reversal it takes away what would come after.
                $starts = $holding->closing === ClosingDown::Flattening ? $starts : [...$starts, $contract->code];
            }
        }
        $answer = ['contracts' => $codes];
        $this->context->accept(
            $command,
            count($contracts) === 1 ? $contracts[0]->code : null,
            $answer,
            $codes === [] ? 'Flatten: nothing open or working' : 'Flatten '.implode(', ', $codes),
        );
        foreach ($starts as $code) {
            $this->context->recorder->note(new E\Command\FlattenStarted($command->account->id, $code, ClosingTrigger::Flatten));
        }

        return $answer;
    }
}
