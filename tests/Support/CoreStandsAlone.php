<?php

declare(strict_types=1);

namespace Tests\Support;

use Lotrik\Desk;
use Lotrik\ExitPlan;
use Lotrik\Position;
use PHPat\Selector\Selector;
use PHPat\Test\Builder\Rule;
use PHPat\Test\PHPat;

/** The rules know no framework, no I/O and no clock: checked by PHPStan with phpat (see phpstan.neon). */
final class CoreStandsAlone
{
    public function testCoreDependsOnNothingButExactNumbers(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('Lotrik'))
            ->canOnly()->dependOn()
            ->classes(
                Selector::inNamespace('Lotrik'), Selector::inNamespace('Brick\Math'), Selector::inNamespace('Psr\Clock'),
                Selector::inNamespace('Random'), Selector::isStandardClass(),
                Selector::classname(
                    '/^\\\\?(DateTime.*|Reflection.*|.*Exception|.*Error|BackedEnum|Generator|Throwable|JsonException)$/',
                    true,
                ),
            )
            ->because('the rules run the same in the engine, the rehearsal and the tests');
    }

    /** What is at risk is worked out of positions, prices and rates: risk knows no desk. */
    public function testRiskKnowsNoDesk(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('Lotrik\Risk'))
            ->shouldNot()->dependOn()
            ->classes(Selector::inNamespace('Lotrik\Desk'), Selector::inNamespace('Lotrik\Venue'))
            ->because('the same figures serve the desk, its previews and whoever else has positions');
    }

    /** Another venue can stand behind the same interface: the simulated one is told and reports, and no more. */
    public function testTheVenueKnowsNoDesk(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('Lotrik\Venue'))
            ->shouldNot()->dependOn()
            ->classes(Selector::inNamespace('Lotrik\Desk'), Selector::inNamespace('Lotrik\Risk'), Selector::inNamespace('Lotrik\ExitPlan'))
            ->because('a gateway to a real venue would know none of them either');
    }

    /** Applying an event records: whoever does it knows no refusal, no fault, no check and no clock, and nobody who decides. */
    public function testWhatAppliesEventsDecidesNothing(): Rule
    {
        return PHPat::rule()
            ->classes(...array_map(Selector::classname(...), [
                Desk\DeskState::class, Desk\State\AccountEvents::class, Desk\State\OrderEvents::class, Desk\State\FillEvents::class,
                Desk\State\ExitEvents::class, Desk\State\LevelEvents::class, Desk\State\HeldPosition::class, Desk\Account\AccountBook::class,
                Desk\Position\AccountPosition::class, Desk\Position\Entry::class, Desk\Position\EntryRecord::class,
                Desk\Order\DeskOrder::class, Desk\Account\DayTally::class,
                Desk\State\HandledCommands::class, Desk\Flatten\ClosingDown::class, ExitPlan\Open\EntryExits::class, ExitPlan\Open\Anchor::class,
                ExitPlan\Open\ExitSlot::class, Position\Position::class,
            ]))
            ->shouldNot()->dependOn()
            ->classes(
                Selector::classname(
                    '/^Lotrik\\\\(.*\\\\Invalid.*|.*Refusal|Contract\\\\Price.*|Contract\\\\Session|Contract\\\\Hours)$/',
                    true,
                ),
                Selector::classname('/^(.*Exception|.*Error)$/', true), Selector::inNamespace('Lotrik\Desk\Question'),
                Selector::inNamespace('Lotrik\Desk\Command'), Selector::inNamespace('Lotrik\Venue'), Selector::inNamespace('Psr\Clock'),
                ...array_map(Selector::classname(...), [
                    Desk\Desk::class, Desk\Intake\Intake::class, Desk\Upkeep\Fills::class, Desk\Intake\PlanTicks::class, Desk\Quote::class,
                    Desk\Event\EventRecorder::class, Desk\Upkeep\Timetable::class,
                    Desk\Upkeep\LossWatch::class, Desk\Upkeep\Flattening::class, Desk\Upkeep\ExitKeeper::class, ExitPlan\ExitPlan::class,
                    ExitPlan\InTicks\Basis::class, ExitPlan\InTicks\Distance::class,
                    \DateTimeImmutable::class,
                ]),
            )
            ->because('an event that was recorded can always be applied, now and at the next start');
    }
}
