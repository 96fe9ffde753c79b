<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\OrderRow;
use App\Models\User;
use Illuminate\Auth\Access\Response;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** An order is its account owner's. Somebody else's looks as if it were not there. */
final class OrderPolicy
{
    public function use(User $user, OrderRow $order): Response
    {
        return $order->account?->owner_id === $user->id
            ? Response::allow()
            : Response::denyWithStatus(
                RefusalCode::NotFound->status(),
                Refusal::orderNotFound($order->id)->getMessage(),
                RefusalCode::NotFound->value,
            );
    }
}
