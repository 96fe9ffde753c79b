<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Documents\TextFile;
use Illuminate\Console\Command;
use Lotrik\Contract\Contract;
use Lotrik\Contract\InvalidPrice;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Moment;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;
use Lotrik\Rehearsal\EntryOrder;
use Lotrik\Rehearsal\Rehearsal;
use Lotrik\Rehearsal\Tape;
use Symfony\Component\Console\Output\OutputInterface;

/**
 * Runs an exit plan over a recorded tape and prints what would have happened as one JSON document. It reads its own
 * words, so that every fault, an unknown option too, ends with status 2 and one line.
 */
final class RehearseCommand extends Command
{
    protected $signature = 'lotrik:rehearse';

    protected $description = 'Run an exit plan over a tape: --contract= --plan= --tape= --side= --quantity= --kind= [--price=] [--at=] '
        .'[--entry-at-price] [--use-size] [--fill=touch|through] --json';

    private const VALUES = ['contract', 'plan', 'tape', 'side', 'quantity', 'kind', 'price', 'at', 'fill', 'data'];

    private const MAX_DOCUMENT_BYTES = 1_048_576;

    private const FLAGS = ['entry-at-price', 'use-size', 'json'];

    protected function configure(): void
    {
        $this->ignoreValidationErrors();
    }

    public function handle(): int
    {
        // What is silenced is looked at where it happens.
        set_error_handler(static function (int $level, string $message): bool {
            return (error_reporting() & $level) === 0 ? true : throw new \ErrorException($message, 0, $level);
        });
        try {
            $options = $this->words(array_slice($_SERVER['argv'] ?? [], 2));
            $contract = $this->document($options, 'contract', Contract::fromJson(...));
            $plan = $this->document($options, 'plan', ExitPlan::fromJson(...));
            $through = $this->oneOf($options, 'fill', ['touch', 'through'], 'touch') === 'through';
            $rehearsal = new Rehearsal($contract, $plan, $this->entry($options, $contract), isset($options['use-size']), $through);
            $result = $rehearsal->over(new Tape(
                (new TextFile($this->path($options, 'tape'), $options['tape']))->lines(),
                $contract,
                $options['tape'],
            ));
        } catch (\Throwable $fault) {
            fwrite(STDERR, trim((string) preg_replace('/\s+/', ' ', $fault->getMessage()))."\n");

            return 2;
        } finally {
            restore_error_handler();
        }
        $this->output->writeln((string) json_encode($result, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE), OutputInterface::OUTPUT_RAW);

        return 0;
    }

    /**
     * @param list<string> $words
     *
     * @return array<string, string>
     */
    private function words(array $words): array
    {
        $options = [];
        while (($word = array_shift($words)) !== null) {
            [$name, $value] = array_pad(explode('=', substr($word, 2), 2), 2, null);
            if (! str_starts_with($word, '--') || ! in_array($name, [...self::VALUES, ...self::FLAGS], true)) {
                throw new \DomainException("$word: found an unknown option, expected --".implode(
                    ', --',
                    [...self::VALUES, ...self::FLAGS],
                ));
            }
            if (isset($options[$name])) {
                throw new \DomainException("--$name: found it twice, expected it once");
            }
            if (in_array($name, self::FLAGS, true)) {
                if ($value !== null) {
                    throw new \DomainException("--$name: found a value, expected none");
                }
                $options[$name] = '1';
            } else {
                $options[$name] = $value ?? array_shift($words) ?? throw new \DomainException("--$name: found nothing, expected a value");
            }
        }

        return $options;
    }

    /** @param array<string, string> $options */
    private function entry(array $options, Contract $contract): EntryOrder
    {
        $side = Side::from($this->oneOf($options, 'side', ['buy', 'sell']));
        $kind = OrderKind::from($this->oneOf($options, 'kind', ['market', 'limit', 'stop']));
        $quantity = $options['quantity'] ?? '';
        if (! preg_match('/^[1-9]\d{0,5}$/', $quantity)) {
            throw new \DomainException("--quantity: found \"$quantity\", expected a whole number of lots from 1 to 999999");
        }
        $atPrice = isset($options['entry-at-price']);
        if (! isset($options['price']) && ($kind !== OrderKind::Market || $atPrice)) {
            $for = $atPrice ? 'fill at a price' : "{$kind->value} order";

            throw new \DomainException("--price: found nothing, expected a price for a $for");
        }
        if (isset($options['price']) && $kind === OrderKind::Market && ! $atPrice) {
            throw new \DomainException("--price: found \"{$options['price']}\", expected none for a market order (or --entry-at-price)");
        }
        try {
            $price = isset($options['price']) ? $contract->ticks($options['price']) : null;
        } catch (InvalidPrice $fault) {
            throw new \DomainException("--price: found \"{$options['price']}\", expected {$fault->expected}");
        }
        $at = isset($options['at'])
            ? Moment::parse($options['at'])
                ?? throw new \DomainException("--at: found \"{$options['at']}\", expected an ISO 8601 time such as "
                    .'2026-11-02T09:30:00.000Z')
            : null;

        return new EntryOrder($side, (int) $quantity, $kind, $price, $at, $atPrice);
    }

    /**
     * @param array<string, string> $options
     * @param non-empty-list<string> $allowed
     */
    private function oneOf(array $options, string $name, array $allowed, ?string $default = null): string
    {
        $value = $options[$name] ?? $default;

        if ($value !== null && in_array($value, $allowed, true)) {
            return $value;
        }
        $found = $value === null ? 'nothing' : "\"$value\"";

        throw new \DomainException("--$name: found $found, expected ".implode(' or ', $allowed));
    }

    /** @param array<string, string> $options */
    private function path(array $options, string $name): string
    {
        $path = $options[$name] ?? throw new \DomainException("--$name: found nothing, expected a file");

        return is_file($path) && is_readable($path)
            ? $path
            : throw new \DomainException("--$name: found no readable file $path, expected one");
    }

    /**
     * @template T
     *
     * @param array<string, string> $options
     * @param callable(string): T   $read
     *
     * @return T
     */
    private function document(array $options, string $name, callable $read): mixed
    {
        $path = $this->path($options, $name);
        if (filesize($path) > self::MAX_DOCUMENT_BYTES) {
            throw new \DomainException("$path: found ".filesize($path).' bytes, expected a document of at most '.self::MAX_DOCUMENT_BYTES);
        }
        try {
            return $read((string) file_get_contents($path));
        } catch (InvalidDocument $fault) {
            throw new \DomainException("$path {$fault->getMessage()}");
        }
    }
}
