<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountFigures;
use Lotrik\Desk\Account\Funds;
use Lotrik\Desk\AtRisk\ProtectedPosition;
use Lotrik\Desk\AtRisk\Reach;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Intake\ChangePreview;
use Lotrik\Desk\Intake\Modification;
use Lotrik\Desk\Intake\OrderRequest;
use Lotrik\Desk\Intake\OverLossRoom;
use Lotrik\Desk\Intake\Preview;
use Lotrik\Desk\Intake\SizeByRisk;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Order\OrderKind;
use Lotrik\Refusal\Refusal;
use Lotrik\Risk\BuyingPower;
use Lotrik\Risk\Margin;

/** What a desk is asked, and what changes nothing: what an order or a change would be, how many lots an amount allows, what would be at risk. */
final class DeskQueries
{
    public function __construct(private readonly Desk $desk, private readonly CommandContext $context) {}

    /** @param int $at ms since 1970 UTC */
    public function funds(Account $account, int $at): BuyingPower
    {
        return (new Funds($this->context->state, $this->context->quotes))->of($account, $at);
    }

    /**
     * What an order would be, without sending it.
     *
     * @param array<array-key, mixed> $body as for placing, without `client_id`
     * @param int                     $at   ms since 1970 UTC
     *
     * @return array<string, mixed>
     *
     * @throws Refusal for a body that cannot be read; a check that fails is part of the preview
     */
    public function preview(int $accountId, array $body, int $at = 0): array
    {
        $account = $this->context->state->accounts[$accountId] ?? throw Refusal::unknownAccount($accountId);
        $node = Node::of($body);
        $node->raw('account');
        try {
            $request = OrderRequest::fromNode($node, $this->context->state, $at);
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }
        $ticket = $this->context->intake->work($request, $account, $this->context->quote($request->contract->code));

        $preview = Preview::of($ticket, $this->context->state->holding($accountId, $request->contract->code), $account->limits);
        $over = $ticket->refusal === null
            ? OverLossRoom::words($preview, $ticket, $account, AccountFigures::risk($account, $this->desk, $at))
            : null;
        assert(is_string($preview['words']));

        $holding = $this->context->state->holding($accountId, $request->contract->code);
        $reach = Reach::of($holding);
        $most = $reach->most();
        if ($ticket->mayOpen()) {
            $sent = $request->kind === OrderKind::Market && $request->releaseWhen === null ? Reach::LAST : null;
            $reach->enters($request->side, $ticket->quantity, null, $sent);
        }
        $margin = $account->rates->knows($request->contract->currency)
            ? $account->rates->toBase(Margin::perLot($request->contract, $at))->times($reach->most() - $most)
            : null;
        $left = $margin === null ? null : $this->funds($account, $at)->left->minus($margin)->exact();

        return [
            'words' => $preview['words'].($over === null ? '' : " · $over"), 'over_loss_room' => $over !== null, 'margin_left' => $left,
        ] + $preview;
    }

    /**
     * What would be open if stops were moved and drafts filled.
     *
     * @param array<array-key, mixed> $body as {@see WhatIf::of()} reads it
     * @param int                     $at   ms since 1970 UTC
     *
     * @return array<string, ProtectedPosition> by contract
     *
     * @throws Refusal
     */
    public function whatIf(int $accountId, array $body, int $at): array
    {
        $account = $this->context->state->accounts[$accountId] ?? throw Refusal::unknownAccount($accountId);
        $node = Node::of($body);
        $node->raw('account');

        return (new WhatIf($this->context->state, $this->context->intake, $this->context->quote(...)))->of($account, $node, $at);
    }

    /**
     * How many lots of an order an amount of risk allows.
     *
     * @param array<array-key, mixed> $body as for placing, without `client_id` and `quantity`, with `risk`
     * @param int                     $at   ms since 1970 UTC
     *
     * @return array{lots: int, risk: string|null, most: string, currency: string, words: string}
     *
     * @throws Refusal
     */
    public function size(int $accountId, array $body, int $at): array
    {
        $account = $this->context->state->accounts[$accountId] ?? throw Refusal::unknownAccount($accountId);
        try {
            $node = Node::of(['quantity' => 1] + array_diff_key($body, ['risk' => 1]));
            $node->raw('account');
            $request = OrderRequest::fromNode($node, $this->context->state, $at);
            $risk = Node::of($body['risk'] ?? null, '/risk');

            return (new SizeByRisk($this->context->state))->of($risk, $request, $account, $this->context->quote($request->contract->code));
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }
    }

    /**
     * What a change of a working order would cost, without sending it.
     *
     * @param array<array-key, mixed> $body  as for changing it, without `client_id`
     * @param int|null                $ahead lots in the queue before the order; null where it stands in none
     * @param int                     $at    ms since 1970 UTC
     *
     * @return array<string, mixed>
     *
     * @throws Refusal for what cannot be read; a check that fails is part of the preview
     */
    public function previewChange(int $accountId, array $body, ?int $ahead, int $at): array
    {
        $account = $this->context->state->accounts[$accountId] ?? throw Refusal::unknownAccount($accountId);
        $node = Node::of($body);
        $node->raw('account');
        $order = $this->context->orderOf(new CommandHead('modify', $account, '', ''), $node);
        $contract = $this->context->state->contracts[$order->contract];
        $quote = $this->context->quote($order->contract);
        try {
            $change = Modification::read($node, $order, $contract, $at);
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }
        $refusal = $change->refusal($order, $this->context, $account, $at);

        return ChangePreview::of($change, $order, $ahead, $quote, $contract) + ['refusal' => $refusal?->toArray()];
    }
}
