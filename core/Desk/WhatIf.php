<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Contract\Contract;
use Lotrik\Contract\InvalidPrice;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\AtRisk\ProtectedPosition;
use Lotrik\Desk\Intake\Intake;
use Lotrik\Desk\Intake\OrderRequest;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Refusal\Refusal;

/** What an account would have open if stops stood elsewhere and drafts had filled. Nothing of it is done. */
final readonly class WhatIf
{
    /** More than this nobody moves at once. */
    private const MOST = 20;

    /** @param \Closure(string): Quote $quote of a contract */
    public function __construct(private DeskState $state, private Intake $intake, private \Closure $quote) {}

    /** @return array<string, ProtectedPosition> contract → what is open now */
    public static function now(Account $account, DeskState $state): array
    {
        $open = [];
        foreach ($state->holdingsOf($account->id) as $holding) {
            if ($holding->position->lots !== 0) {
                $open[$holding->contract] = ProtectedPosition::of($holding, $state->contracts[$holding->contract]);
            }
        }

        return $open;
    }

    /**
     * @param Node $node `moves`, each `{"order", "price"}` of a working order; `stops`, each `{"contract", "price"}` for lots
     *                   without one; `orders` as for placing, without `client_id`. All may be left out.
     * @param int  $at   ms since 1970 UTC
     *
     * @return array<string, ProtectedPosition> contract → what would be open
     *
     * @throws Refusal
     */
    public function of(Account $account, Node $node, int $at): array
    {
        $open = self::now($account, $this->state);
        try {
            foreach (self::list($node, 'moves') as $move) {
                $id = $move->int('order', 1, PHP_INT_MAX);
                $order = $this->state->orders[$id] ?? null;
                // It may have filled while it was dragged: then nothing moves.
                $code = $order?->account === $account->id ? $order->contract : '';
                $tick = isset($open[$code]) ? self::tick($move, $open[$code]->contract) : null;
                if ($tick !== null) {
                    $open[$code] = $open[$code]->withStop($id, $tick);
                }
            }
            foreach (self::list($node, 'stops') as $stop) {
                $code = $stop->string('contract');
                if (isset($open[$code])) {
                    $open[$code] = $open[$code]->withStopForRest(self::tick($stop, $open[$code]->contract));
                }
            }
            foreach (self::list($node, 'orders') as $order) {
                $order->raw('account');
                $request = OrderRequest::fromNode($order, $this->state, $at);
                $code = $request->contract->code;
                $holding = $this->state->holding($account->id, $code);
                $open[$code] = ($open[$code] ?? ProtectedPosition::of($holding, $request->contract))
                    ->withOrder($this->intake->work($request, $account, ($this->quote)($code)));
            }
            $node->done();
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }

        return array_filter($open, static fn(ProtectedPosition $of): bool => $of->position->lots !== 0);
    }

    /**
     * @return list<Node>
     *
     * @throws InvalidDocument
     */
    private static function list(Node $node, string $field): array
    {
        $items = $node->raw($field) === null ? [] : $node->list($field);
        if (count($items) > self::MOST) {
            throw $node->fault($field, 'at most '.self::MOST);
        }

        return array_map(
            static fn(mixed $item, int $i): Node => Node::of($item, $node->at($field)."/$i"),
            $items,
            array_keys($items),
        );
    }

    private static function tick(Node $node, Contract $contract): int
    {
        try {
            $tick = $contract->ticks($node->string('price'));
        } catch (InvalidPrice $fault) {
            throw Refusal::priceOffGrid($fault, $node->at('price'));
        }
        $node->done();

        return $tick;
    }
}
