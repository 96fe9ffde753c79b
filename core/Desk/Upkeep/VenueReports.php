<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\Event as E;
use Lotrik\Desk\Event\EventRecorder;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Order\OrderState;
use Lotrik\Venue\ExecType;
use Lotrik\Venue\ExecutionReport;
use Lotrik\Venue\Touch;

/** What the venue says of an order, as events: once, and only where the order's state allows it. */
final class VenueReports
{
    public function __construct(private readonly EventRecorder $recorder) {}

    public function take(ExecutionReport $report): void
    {
        $order = $this->recorder->state->orders[$report->order] ?? null;
        if ($order === null || ! $this->isInPlace($order, $report)) {
            $this->recorder->note(new E\Venue\ReportOutOfPlace($report->order, $report->type->value, $order?->state->value ?? 'unknown'));

            return;
        }
        $execution = $report->execution === '' ? null : $report->execution;
        $this->recorder->note(match ($report->type) {
            ExecType::Accepted => new E\Order\OrderAccepted($order->id, $execution),
            ExecType::Triggered => new E\Order\OrderTriggered($order->id, $execution),
            ExecType::Filled => $this->filled($order, $report, $execution),
            ExecType::Reduced => new E\Fill\OrderReduced(
                $order->id, $report->left === null ? $report->lots : $order->leaves() - $report->left, $report->because, $execution,
            ),
            ExecType::Replaced => new E\Order\OrderReplaced(
                $order->id, $report->left ?? $report->lots, $report->price, $report->trigger, $execution,
            ),
            ExecType::ReplaceRefused => new E\Order\ReplaceRefused($order->id, $report->because, $execution),
            ExecType::Cancelled => new E\Order\OrderCancelled($order->id, $report->because, $execution),
            ExecType::Refused => new E\Order\OrderRejected($order->id, $report->because, $execution),
        });
        if ($report->type === ExecType::Filled && $report->cumulative > $order->filled) {
            $this->recorder->note(
                new E\Venue\VenueDiffers($order->account, $order->contract, $order->id, $report->cumulative, $order->filled),
            );
        }
    }

    /**
     * Whether the venue says it for the first time, and the state of the order allows it. A fill counts whatever the desk
     * believed: the lots are there.
     */
    private function isInPlace(DeskOrder $order, ExecutionReport $report): bool
    {
        if ($order->knows($report->execution)) {
            return false;
        }

        return match ($report->type) {
            ExecType::Filled => true,
            ExecType::Refused => $order->state->canBecome(OrderState::Rejected),
            ExecType::Accepted => $order->state === OrderState::PendingNew
                || $order->state === OrderState::Suspended
                || $order->state === OrderState::PendingCancel,
            default => ! $order->state->isFinal(),
        };
    }

    private function filled(DeskOrder $order, ExecutionReport $report, ?string $execution): E\Fill\OrderFilled
    {
        $tick = (int) $report->price;
        $split = Fills::split($order, $report->lots, $tick, $this->recorder->state);

        return new E\Fill\OrderFilled(
            $order->id, $this->recorder->state->lastFill + 1, $report->lots, $tick, $report->print,
            $order->trigger === null ? 0 : $order->side->sign() * ($tick - $order->trigger),
            $split->closes, $split->exits, $split->joins, $split->notLooser, ($report->touch ?? new Touch(null, 0, null, 0))->pack(),
            $split->adjusted, $execution,
        );
    }
}
