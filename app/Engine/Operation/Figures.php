<?php

declare(strict_types=1);

namespace App\Engine\Operation;

use App\Engine\View\DayOfAccountView;
use App\Engine\View\LimitsView;
use App\Engine\View\OpenRiskView;
use App\Engine\View\PositionView;
use App\Engine\View\RiskView;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\AtRisk\Gap;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\TradingSystem;
use Lotrik\Desk\WhatIf;
use Lotrik\Refusal\Refusal;

/** Positions, risk, the day and the limits of an account. Times in ms since 1970 UTC. */
final readonly class Figures
{
    public function __construct(private TradingSystem $system, private Orders $orders) {}

    /** @return array<string, mixed> */
    public function positions(Asked $asked): array
    {
        $positions = array_map(
            fn(AccountPosition $h): array => PositionView::of($h, $this->system->desk), $this->orders->holdings($asked->account->id),
        );

        return ['items' => $positions, 'next' => null, 'sequence' => $this->system->desk->state->sequence];
    }

    /** @return array<string, mixed> */
    public function risk(Asked $asked, int $at): array
    {
        return RiskView::of($asked->account, $this->system->desk, $at);
    }

    /** @return array<string, mixed> what is lost if all stops fill */
    public function openRisk(Asked $asked, int $at): array
    {
        $open = WhatIf::now($asked->account, $this->system->desk->state);

        return OpenRiskView::of($asked->account, $this->system, $open, self::gap($asked), $at);
    }

    /** @return array<string, mixed> the same if stops were moved and drafts filled */
    public function whatIf(Asked $asked, int $at): array
    {
        $open = $this->system->desk->queries->whatIf($asked->account->id, $asked->bodyWithout('gap'), $at);

        return OpenRiskView::of($asked->account, $this->system, $open, self::gap($asked), $at);
    }

    /** @return array<string, mixed> */
    public function day(Asked $asked, int $at): array
    {
        return DayOfAccountView::of($asked->account, $this->system->desk, ($asked->request->body['before'] ?? false) === true, $at);
    }

    /** @return array<string, mixed> */
    public function limits(Asked $asked, int $at): array
    {
        return LimitsView::of($asked->account, $this->system->desk, $at);
    }

    /** @return array<string, mixed> working orders, positions and risk of an account, all at one sequence */
    public function snapshot(Account $account, int $at): array
    {
        $orders = [];
        $positions = [];
        foreach ($this->system->desk->state->holdings as $holdings) {
            $holding = $holdings[$account->id] ?? null;
            if ($holding !== null) {
                array_push($orders, ...array_map($this->orders->write(...), array_values($holding->working)));
                if ($holding->sequence > 0) {
                    $positions[] = PositionView::of($holding, $this->system->desk);
                }
            }
        }

        return [
            'sequence' => $this->system->desk->state->sequence, 'orders' => $orders, 'positions' => $positions,
            'risk' => RiskView::of($account, $this->system->desk, $at),
        ];
    }

    /** @throws Refusal */
    private static function gap(Asked $asked): Gap
    {
        $gap = $asked->request->body['gap'] ?? '0';

        return Gap::parse(is_int($gap) ? (string) $gap : (is_string($gap) ? $gap : ''));
    }
}
