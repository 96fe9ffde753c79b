<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\AccountRow;
use App\Models\OrderRow;
use Illuminate\Auth\Access\Response;
use Illuminate\Support\Facades\Gate;
use Lotrik\Refusal\Refusal;

/** About the order in the address; its account is the order's own. */
final class OneOrderRequest extends CommandRequest
{
    public function authorize(): Response
    {
        return Gate::inspect('use', $this->order());
    }

    public function order(): OrderRow
    {
        $order = $this->route('order');
        assert($order instanceof OrderRow);

        return $order;
    }

    /** A cancel needs no client id of the caller's: it can be sent again without harm. */
    public function command(): array
    {
        return parent::command() + ($this->isMethod('DELETE') ? ['client_id' => bin2hex(random_bytes(12))] : []);
    }

    protected function findAccount(): AccountRow
    {
        return $this->order()->account ?? throw Refusal::unknownAccount($this->order()->account_id);
    }
}
