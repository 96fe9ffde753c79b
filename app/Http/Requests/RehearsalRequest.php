<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Engine\Operation\Operation;
use App\Engine\Rpc\EngineClient;
use App\Http\PlanSample;
use App\Http\WebRefusal;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\InvalidLine;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;
use Lotrik\Rehearsal\DrawnLine;
use Lotrik\Rehearsal\EntryOrder;
use Lotrik\Rehearsal\PrintList;
use Lotrik\Rehearsal\Prints;
use Lotrik\Rehearsal\Rehearsal;
use Lotrik\Rehearsal\Step;
use Lotrik\Rehearsal\Tape;
use Lotrik\Rehearsal\TapePrint;

/** A plan, kept or not, with the prices that it is tried on: a drawn line, a tape, or what has just traded. */
final class RehearsalRequest extends CommandRequest
{
    protected const FILE = 'tape';

    private const MAX_CORNERS = 400;

    /** Longer tapes are for the command line, where no order waits for a worker. */
    private const MAX_PRINTS = 20_000;

    private const FARTHEST = 100_000;

    /**
     * @return array<string, mixed> what came of it, with its steps and where the entry stood, in ticks
     *
     * @throws Refusal
     */
    public function rehearse(EngineClient $engine): array
    {
        $engine = $engine->for($this->trader(), $this->account()->id);
        $node = Node::of($this->fields());
        try {
            $sample = PlanSample::fromNode($node, $engine, $this->account()->account());
            $prints = $this->prints($node, $sample, $engine);
            $node->done();
            // What has traded began elsewhere: without a price of the trader's own the entry fills where its prints begin.
            $atPrice = $this->fields()['line'] ?? $this->fields()['price'] ?? null;
            $price = $sample->basis->price;
            $entry = new EntryOrder(
                $sample->side, $sample->basis->quantity, OrderKind::Market, $atPrice === null ? null : $price, null, $atPrice !== null,
            );
            $steps = [];
            $result = (new Rehearsal($sample->contract, $sample->plan, $entry, balance: $sample->balance, ranges: $sample->basis->ranges))
                ->over($prints, static function (Step $step) use (&$steps): void {
                    $steps[] = count($steps) < self::MAX_PRINTS ? $step->toArray() : throw WebRefusal::tapeTooLong(self::MAX_PRINTS);
                });
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        } catch (InvalidPlan $fault) {
            throw Refusal::planDoesNotFit($fault, '/document');
        } catch (InvalidLine $fault) {
            throw WebRefusal::line($fault, '/tape');
        }

        return $result + ['steps' => $steps, 'entry_level' => $atPrice === null ? $steps[0]['tick'] ?? $price : $price];
    }

    /** One of: `line`, corners in ticks from the entry towards higher prices; `tape`, CSV; `recent`, what has just traded. */
    private function prints(Node $node, PlanSample $sample, EngineClient $engine): Prints
    {
        $given = array_values(array_filter(['line', 'tape', 'recent'], $node->has(...)));
        if (count($given) !== 1) {
            throw InvalidDocument::at(
                $node->pointer,
                $given === [] ? 'no prices' : implode(' and ', $given),
                'one of line, tape and recent',
            );
        }
        if ($given[0] === 'line') {
            return new DrawnLine($this->corners($node, $sample->basis->price), 0);
        }
        if ($given[0] === 'tape') {
            $tape = $node->raw('tape');

            return new Tape(explode("\n", is_string($tape) ? $tape : throw $node->fault('tape', 'the lines of a tape')), $sample->contract);
        }
        if ($node->raw('recent') !== true) {
            throw $node->fault('recent', 'true');
        }
        /** @var list<array{int, int, int, int, int}> $prints */
        $prints = $engine->call(Operation::Prints, ['contract' => $sample->contract->code])['body']['prints'];

        return new PrintList(array_map(
            static fn(array $p): TapePrint => TapePrint::atTheTouch($p[0] * 1000, $p[1], $p[2], $p[3] > 0 ? Side::Buy : Side::Sell),
            $prints,
        ));
    }

    /** @return non-empty-list<int> in ticks */
    private function corners(Node $node, int $price): array
    {
        $corners = [];
        foreach ($node->list('line') as $i => $ticks) {
            if (! is_int($ticks) || abs($ticks) > self::FARTHEST) {
                throw InvalidDocument::at(
                    $node->at('line')."/$i",
                    InvalidDocument::show($ticks),
                    'a whole number of ticks from the entry, up to '.self::FARTHEST,
                );
            }
            $corners[] = $price + $ticks;
        }
        if ($corners === [] || count($corners) > self::MAX_CORNERS) {
            throw $node->fault('line', 'a list of 1 to '.self::MAX_CORNERS.' corners');
        }

        return $corners;
    }
}
