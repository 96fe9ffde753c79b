<?php

declare(strict_types=1);

namespace App\Engine\Operation;

use App\Engine\Loop\Practice;
use App\Engine\Loop\PracticeJob;
use Lotrik\Contract\Calendar;
use Lotrik\Contract\Contract;
use Lotrik\Desk\TradingSystem;
use Lotrik\Document\InvalidDocument;
use Lotrik\Refusal\Refusal;

/** The simulated market, the venue's calendar, and the levels that a user is told of. */
final readonly class Steering
{
    public function __construct(private TradingSystem $system, private Practice $practice) {}

    public function practise(Asked $asked, int $at): PracticeJob
    {
        return $this->practice->steer($asked->contract()->code, $asked->bodyWithout('contract'), $at);
    }

    /** @return callable(): array{status: int, body: array<string, mixed>} */
    public function watchLevels(Asked $asked, int $at): callable
    {
        $within = $this->system->desk->watchLevels($asked->account->id, $asked->request->body, $at);

        return static fn(): array => ['status' => 200, 'body' => ['within' => $within]];
    }

    /**
     * @return callable(): array{status: int, body: array<string, mixed>}
     *
     * @throws Refusal
     */
    public function setCalendar(Asked $asked, int $at): callable
    {
        try {
            $calendar = Calendar::fromArray($asked->request->body);
            $calendar->mustFit($this->system->desk->state->contracts);
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }
        $this->system->setCalendar($calendar, $at);

        return fn(): array => ['status' => 200, 'body' => $this->calendar($asked, $at)];
    }

    /** @return array<string, mixed> the days on which the venue trades otherwise, and the hours of each contract as they are now */
    public function calendar(Asked $asked, int $at): array
    {
        $state = $this->system->desk->state;

        return [
            'calendar' => ($state->calendar ?? Calendar::none())->toArray(),
            'contracts' => array_values(array_map(static fn(Contract $of): array => [
                'contract' => $of->code, 'zone' => $of->session->zone, 'words' => $of->session->at($at)->words($at),
            ], $state->contracts)),
        ];
    }
}
