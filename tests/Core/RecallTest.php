<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** The answer to a command was lost: what became of it is asked, and what has not arrived is given up for good. */
final class RecallTest extends TestCase
{
    private TestSystem $system;

    protected function setUp(): void
    {
        $this->system = new TestSystem();
    }

    /** @return array<string, mixed> */
    private function order(string $clientId): array
    {
        return ['client_id' => $clientId, 'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market'];
    }

    public function testACommandThatArrivedIsAnsweredAndNotDoneAgain(): void
    {
        $answer = $this->system->handle('place', $this->order('a'));
        $recalled = $this->system->handle('recall', ['client_id' => 'a'])->body;
        self::assertSame([true, 'place', $answer->body], [$recalled['arrived'], $recalled['op'], $recalled['answer']]);
        self::assertSame(2, $this->system->lots());
    }

    /** The packet that was held up for seconds: the trader has gone on, and it must not buy behind the back. */
    public function testOneThatComesAfterItWasGivenUpDoesNothing(): void
    {
        self::assertFalse($this->system->handle('recall', ['client_id' => 'a'])->body['arrived']);
        self::assertFalse($this->system->handle('recall', ['client_id' => 'a'])->body['arrived'], 'asked twice it says the same');
        $this->system->restart();
        $refusal = $this->system->refusal('place', $this->order('a'));
        self::assertSame(RefusalCode::ClientIdReused, $refusal->problem);
        self::assertStringContainsString('abandoned', $refusal->getMessage());
        self::assertSame(0, $this->system->lots());
        $this->system->handle('place', $this->order('b'));
        self::assertSame(2, $this->system->lots());
    }

    /** A refusal is not kept: nothing was done, which is what the trader wants to know. */
    public function testOneThatWasRefusedHasDoneNothing(): void
    {
        $this->system->refusal('place', ['quantity' => 10_000] + $this->order('a'));
        self::assertFalse($this->system->handle('recall', ['client_id' => 'a'])->body['arrived']);
    }

    public function testAnothersCommandIsNotGivenUp(): void
    {
        $this->system->handle('recall', ['client_id' => 'a'], 2);
        $this->system->handle('place', $this->order('a'));
        self::assertSame(2, $this->system->lots());
    }

    public function testItTakesNothingButAnId(): void
    {
        try {
            $this->system->handle('recall', ['client_id' => 'a', 'side' => 'buy']);
            self::fail('refused');
        } catch (Refusal $refusal) {
            self::assertSame('/side', $refusal->pointer);
        }
    }
}
