<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\ContractRow;
use Lotrik\Refusal\Refusal;

/** Which orders of an account: `state` working or final or both, of all contracts or of one. */
final class OrderListRequest extends ApiRequest
{
    private const STATES = ['working', 'final'];

    /** @return string|null working or final; null for all */
    public function state(): ?string
    {
        $state = $this->query('state');

        return $state === null || in_array($state, self::STATES, true)
            ? $state
            : throw Refusal::invalid('state', $state, implode(' or ', self::STATES));
    }

    /** @return ContractRow|null null for all of them */
    public function onlyContract(): ?ContractRow
    {
        $code = $this->query('contract');

        return $code === null ? null : self::listed((string) $code);
    }
}
