<?php

declare(strict_types=1);

namespace App\Http;

use App\Engine\Operation\Operation;
use App\Engine\Rpc\EngineClient;
use App\Http\Requests\ApiRequest;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\Money\Money;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;

/** An exit plan with the order that it is looked at or tried with: contract, side, price, lots. */
final readonly class PlanSample
{
    public const MAX_LOTS = 10_000;

    /** @param list<int> $minutes how far the last closed minutes ranged, in ticks */
    private function __construct(
        public ExitPlan $plan,
        public Contract $contract,
        public Side $side,
        public Basis $basis,
        public ?Money $balance,
        public array $minutes,
    ) {}

    /**
     * Reads `document`, `contract`, `side`, `quantity` and `price` (the last trade where it is left out); the caller
     * reads what else there is and closes the node.
     *
     * @throws Refusal
     * @throws InvalidDocument
     */
    public static function fromNode(Node $node, EngineClient $engine, Account $account): self
    {
        $node->raw('account');
        $plan = ExitPlan::fromNode($node->node('document'));
        $contract = ApiRequest::listed($node->string('contract'))->contract();
        $side = $node->enum('side', Side::class);
        $quantity = $node->int('quantity', 1, self::MAX_LOTS);
        /** @var array{ranges: array<string, int>|null, minutes: list<int>, last: int|null, balance: string} $market */
        $market = $engine->call(Operation::PlanBasis, ['contract' => $contract->code, 'document' => $plan->document])['body'];
        try {
            $price = $node->raw('price') !== null
                ? $contract->ticks($node->string('price'))
                : $market['last'] ?? throw WebRefusal::noPrice($contract->code);
        } catch (Refusal|InvalidDocument $fault) {
            throw $fault;
        } catch (\DomainException $e) {
            throw Refusal::priceOffGrid($e, '/price');
        }
        $balance = $account->rates->knows($contract->currency)
            ? $account->rates->fromBase(Money::of($market['balance'], $account->rates->base), $contract->currency)
            : null;

        return new self(
            $plan, $contract, $side, new Basis($contract, $price, $quantity, $balance, TrueRanges::fromArray($market['ranges'])), $balance,
            $market['minutes'],
        );
    }
}
