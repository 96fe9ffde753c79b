<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\AccountRow;
use App\Models\OrderRow;
use Illuminate\Support\Facades\Gate;
use Lotrik\Refusal\Refusal;

/** About the order in the address; its account is the order's own. */
final class OneOrderRequest extends CommandRequest
{
    private ?OrderRow $order = null;

    /** @throws Refusal where there is none, or it is somebody else's: the two look the same */
    public function order(): OrderRow
    {
        return $this->order ??= $this->findOrder((string) $this->route('id'));
    }

    /** A cancel needs no client id of the caller's: it can be sent again without harm. */
    public function command(): array
    {
        return parent::command() + ($this->isMethod('DELETE') ? ['client_id' => bin2hex(random_bytes(12))] : []);
    }

    private function findOrder(string $id): OrderRow
    {
        $order = (ctype_digit($id) ? OrderRow::query()->find((int) $id) : null) ?? throw Refusal::orderNotFound($id);
        Gate::authorize('use', $order);

        return $order;
    }

    protected function findAccount(): AccountRow
    {
        return $this->order()->account ?? throw Refusal::unknownAccount($this->order()->account_id);
    }
}
