<?php

declare(strict_types=1);

namespace App\Engine\Operation;

use App\Engine\Journal\Journal;
use App\Engine\View\OrderView;
use App\Models\OrderRow;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\TradingSystem;
use Lotrik\Refusal\Refusal;

/** Orders as they are now, or as they were last where they ended long ago. */
final readonly class Orders
{
    public function __construct(private TradingSystem $system, private Journal $journal) {}

    /** @return int|null lots ahead of it in the queue; null where it does not rest */
    public function ahead(int $order): ?int
    {
        $of = $this->system->desk->state->orders[$order] ?? null;

        return $of === null ? null : $this->system->market($of->contract)->venue->book->ahead($order);
    }

    /** @return array<string, mixed> */
    public function write(DeskOrder $order): array
    {
        return $this->fromColumns(OrderRow::columns($order, $this->system->desk->state, $this->ahead($order->id)));
    }

    /** @return array<string, mixed> one that is known to have been */
    public function now(int $id): array
    {
        $order = $this->system->desk->state->orders[$id] ?? null;
        if ($order !== null) {
            return $this->write($order);
        }
        $row = $this->journal->order($id) ?? throw new \LogicException("order $id is in no table");

        return $this->fromColumns($row->getAttributes());
    }

    /** @return array<string, mixed> */
    public function one(Asked $asked): array
    {
        $id = $asked->int('order');
        $order = $this->system->desk->state->orders[$id] ?? null;
        $body = $order === null ? $this->journal->order($id) : $this->write($order);
        if (($body['account'] ?? null) !== $asked->account->id) {
            throw Refusal::orderNotFound($id);
        }

        return $body;
    }

    /** @return array<string, mixed> those of the account that work, of one contract or of all, the newest first */
    public function working(Asked $asked): array
    {
        $contract = $asked->request->body['contract'] ?? null;
        $orders = [];
        foreach ($this->holdings($asked->account->id) as $holding) {
            if ($contract === null || $contract === $holding->contract) {
                array_push($orders, ...array_values($holding->working));
            }
        }
        usort($orders, static fn(DeskOrder $a, DeskOrder $b): int => $b->id <=> $a->id);

        return ['items' => array_map($this->write(...), $orders), 'next' => null, 'sequence' => $this->system->desk->state->sequence];
    }

    /** @return list<AccountPosition> of the contracts in which the account has ever done anything */
    public function holdings(int $account): array
    {
        return array_values(array_filter(array_map(
            static fn(array $holdings): ?AccountPosition => $holdings[$account] ?? null,
            $this->system->desk->state->holdings,
        ), static fn(?AccountPosition $h): bool => $h !== null && $h->sequence > 0));
    }

    /**
     * @param array<string, mixed> $row columns of an OrderRow
     *
     * @return array<string, mixed>
     */
    private function fromColumns(array $row): array
    {
        $contracts = $this->system->desk->state->contracts;

        return OrderView::of($row, $contracts[$row['contract_code']], $contracts[$row['watched_code'] ?? ''] ?? null);
    }
}
