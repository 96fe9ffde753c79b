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
            ->classes(Selector::inNamespace('Lotrik'), Selector::inNamespace('Brick\Math'), Selector::inNamespace('Psr\Clock'), Selector::inNamespace('Random'), Selector::isStandardClass(), Selector::classname('/^\\\\?(DateTime.*|Reflection.*|.*Exception|.*Error|BackedEnum|Generator|Throwable|JsonException)$/', true))
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

    /** Applying an event records: whoever does it knows no refusal, no fault, no check and no clock, and nobody who decides. */
    public function testWhatAppliesEventsDecidesNothing(): Rule
    {
        return PHPat::rule()
            ->classes(...array_map(Selector::classname(...), [
                Desk\DeskState::class, Desk\Holding::class, Desk\Entry::class, Desk\EntryFacts::class, Desk\DeskOrder::class, Desk\DayTally::class,
                Desk\HandledCommands::class, Desk\ClosingDown::class, ExitPlan\EntryExits::class, ExitPlan\Anchor::class, ExitPlan\ExitSlot::class, Position\Position::class,
            ]))
            ->shouldNot()->dependOn()
            ->classes(
                Selector::classname('/^Lotrik\\\\(.*Fault|.*Refusal|Contract\\\\Price.*|Contract\\\\Session|Contract\\\\Hours)$/', true),
                Selector::classname('/^(.*Exception|.*Error)$/', true), Selector::inNamespace('Lotrik\Desk\Check'), Selector::inNamespace('Lotrik\Desk\Command'), Selector::inNamespace('Lotrik\Venue'), Selector::inNamespace('Psr\Clock'),
                ...array_map(Selector::classname(...), [
                    Desk\Desk::class, Desk\Intake::class, Desk\Fills::class, Desk\PlanTicks::class, Desk\Quote::class, Desk\EventRecorder::class, Desk\Timetable::class,
                    Desk\LossWatch::class, Desk\Flattening::class, Desk\ExitKeeper::class, ExitPlan\ExitPlan::class, ExitPlan\Basis::class, ExitPlan\Distance::class,
                    \DateTimeImmutable::class,
                ]),
            )
            ->because('an event that was recorded can always be applied, now and at the next start');
    }
}
