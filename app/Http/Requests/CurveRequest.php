<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Http\PlanSample;
use App\Http\WebRefusal;
use App\Models\ContractRow;
use App\Models\PlanRow;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;

/** The curve of a kept plan for a sample order. */
final class CurveRequest extends ApiRequest
{
    private const MAX_BEST = 2_000;

    private const BEST = 40;

    /** Where no price is given, in ticks. */
    private const PRICE = 1_000;

    public function plan(): ExitPlan
    {
        $id = (string) $this->route('id');
        $stored = ctype_digit($id) ? PlanRow::findFor($this->trader()->id, (int) $id) : null;

        return ExitPlan::fromArray($stored->document ?? throw WebRefusal::notFound("exit plan $id", '/api/exit-plans'));
    }

    /** @return int the best profit up to which it is drawn, in ticks */
    public function best(): int
    {
        return $this->whole('best', self::BEST, 0, self::MAX_BEST);
    }

    /** A plan in money or percent needs a contract, a price and a quantity; the first listed contract stands in. */
    public function basis(): Basis
    {
        $side = $this->query('side');
        if ($side !== null && Side::tryFrom((string) $side) === null) {
            throw Refusal::invalid('side', $side, 'buy or sell');
        }
        $code = $this->query('contract');
        $contract = ($code === null ? ContractRow::listed()->firstOrFail() : self::listed((string) $code))->contract();
        try {
            $price = is_string($this->query('price')) ? $contract->ticks($this->query('price')) : self::PRICE;
        } catch (\DomainException $fault) {
            throw Refusal::priceOffGrid($fault, '/price');
        }

        return new Basis($contract, $price, $this->whole('quantity', 1, 1, PlanSample::MAX_LOTS));
    }
}
