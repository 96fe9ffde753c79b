<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Order;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;

/** Entries and hand-made orders of a contract or of the account; what protects an open position and its targets stay unless they are asked for. */
final class CancelMany implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $contracts = $body->has('contract') ? [$this->context->contractOf($body)->code] : array_keys($this->context->state->contracts);
        $sides = [];
        if ($body->raw('sides') === []) {
            throw $body->fault('sides', 'buy, sell, or both; left out it is both');
        }
        foreach ($body->raw('sides') === null ? [] : $body->list('sides') as $i => $side) {
            $sides[] = (is_string($side) ? Side::tryFrom($side) : null)
                ?? throw InvalidDocument::at($body->at('sides')."/$i", InvalidDocument::show($side), 'buy or sell');
        }
        $exits = $body->bool('exits', false);
        $leave = $body->bool('leave_unprotected', false);
        $body->done();
        $goes = $gone = [];
        $kept = 0;
        foreach ($contracts as $code) {
            $holding = $this->context->state->holding($command->account->id, $code);
            foreach ($holding->working as $order) {
                if ($sides !== [] && ! in_array($order->side, $sides, true)) {
                    continue;
                }
                $bare = $holding->coverage()->protectedBy($order);
                if (($bare > 0 || $order->role->isExit()) && ! $exits) {
                    $kept += $order->kind->isStop() ? 1 : 0;
                } else {
                    $goes[] = $order;
                    $gone[$code][] = $order;
                }
            }
        }
        $bare = 0;
        foreach ($gone as $code => $orders) {
            $holding = $this->context->state->holding($command->account->id, $code);
            $proposal = $this->context->asking->of(
                $command->account, $holding, $this->context->recorder->at, CancelOrder::without($orders, $holding, $this->context),
            );
            $this->context->mayBe($proposal, '', true);
            $bare += $proposal->unprotects();
        }
        if ($bare > 0 && ! $leave) {
            throw Refusal::wouldUnprotect('cancelling the exits', $bare);
        }
        $waiting = array_filter($goes, static fn(DeskOrder $o): bool => $o->state->isPending());
        $answer = ['cancelled' => self::ids(array_diff_key($goes, $waiting)), 'waiting' => self::ids($waiting), 'stops_kept' => $kept];
        $this->context->accept($command, count($contracts) === 1 ? $contracts[0] : null, $answer, sprintf(
            'Cancel all: %d cancelled, %d stops kept%s', count($goes) - count($waiting), $kept,
            $waiting === [] ? '' : sprintf(', %d pending and cancelled once the venue answers', count($waiting)),
        ));
        foreach ($goes as $order) {
            $this->context->cancelByHand($order, 'cancel all');
        }

        return $answer;
    }

    /**
     * @param array<DeskOrder> $orders
     *
     * @return list<int>
     */
    private static function ids(array $orders): array
    {
        return array_values(array_map(static fn(DeskOrder $o): int => $o->id, $orders));
    }
}
