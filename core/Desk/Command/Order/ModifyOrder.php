<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Order;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Event\EventText;
use Lotrik\Desk\Intake\Modification;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Document\Node;
use Lotrik\Order\Role;
use Lotrik\Order\TimeInForce;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** Changes a working order, or hands a stop back to its ratchets. */
final class ModifyOrder implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $order = $this->context->orderOf($command, $body);
        $contract = $this->context->state->contracts[$order->contract];
        $this->context->mustBeFree($order);
        $change = Modification::read($body, $order, $contract, $this->context->recorder->at);
        if ($change->handBack) {
            return $this->handBack($command, $order);
        }
        $refusal = $change->refusal($order, $this->context, $command->account, $this->context->recorder->at);
        if ($refusal !== null) {
            throw $refusal;
        }
        if ($change->wouldTrade($order, $this->context->quote($order->contract))) {
            $this->context->mustBeOpen($contract);
        }
        $this->context->accept($command, $order->contract, ['order' => $order->id], 'Change '.EventText::named($order, $contract));
        if (! $change->isNothing($order)) {
            // The venue does not know a held order: its change is done as soon as it is asked for.
            $this->context->recorder->note($order->isHeld()
                ? new E\Order\OrderReplaced(
                    $order->id,
                    $order->leaves() + $change->lotsChange($order),
                    $change->price ?? $order->price,
                    $change->trigger ?? $order->trigger,
                )
                : new E\Order\ReplaceRequested($order->id, $change->lotsChange($order), $change->price, $change->trigger, 'by hand', true));
        }
        if ($change->changesDuration($order)) {
            $this->context->recorder->note(new E\Order\DurationChanged($order->id, $change->tif, $change->expiresAt,
                $change->tif === TimeInForce::Day ? $contract->session->closeAfter(max(
                    $this->context->recorder->at,
                    $order->isHeld() ? $order->releaseWhen->releaseAt ?? 0 : 0,
                )) : null));
        }

        return ['order' => $order->id];
    }

    /** @return array<string, mixed> */
    private function handBack(CommandHead $command, DeskOrder $order): array
    {
        if ($order->role !== Role::Stop) {
            throw self::notAStop();
        }
        $this->context->accept($command, $order->contract, ['order' => $order->id], "Return the stop of portion {$order->portion} to its plan");
        $this->context->recorder->note(new E\Exit\SteeringHandedBack(
            $order->account,
            $order->contract,
            (int) $order->entry,
            (int) $order->portion,
            (int) $order->group,
        ));

        return ['order' => $order->id];
    }

    private static function notAStop(): Refusal
    {
        return new Refusal(RefusalCode::NotAStop, 'only the stop of a portion can be returned to its plan', '/steering');
    }
}
