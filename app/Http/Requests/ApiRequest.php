<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Http\JsonBody;
use App\Http\WebRefusal;
use App\Models\AccountRow;
use App\Models\ContractRow;
use App\Models\User;
use Illuminate\Auth\Access\Response;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Support\Facades\Gate;
use Lotrik\Document\InvalidDocument;
use Lotrik\Refusal\Refusal;

/**
 * A request to the API: who asks, for which account and contract, and what the body says. What an address takes is read
 * by the request of its own, which names the field that is wrong; rules for fields alone could not.
 */
class ApiRequest extends FormRequest
{
    /** The one field of the body that may hold the lines of a file. */
    protected const FILE = null;

    /** @var array<array-key, mixed>|null */
    private ?array $fields = null;

    private ?AccountRow $account = null;

    /** Whether the account that the query names is the user's. */
    public function authorize(): Response
    {
        return $this->query('account') === null ? Response::allow() : Gate::inspect('use', $this->account());
    }

    /**
     * None of Laravel's: they know neither doubled keys nor prices off the grid. What a body says is read by the readers of its
     * document ({@see \Lotrik\Document\Node}) as it is asked for, by the methods of the request of its own.
     *
     * @return array{}
     */
    public function rules(): array
    {
        return [];
    }

    /** An order does not wait for a validator that would have nothing to do. */
    public function validateResolved(): void
    {
        if (! $this->passesAuthorization()) {
            $this->failedAuthorization();
        }
    }

    public function trader(): User
    {
        $user = $this->user();
        assert($user instanceof User);

        return $user;
    }

    /**
     * @return array<array-key, mixed> the body
     *
     * @throws Refusal
     */
    public function fields(): array
    {
        return $this->fields ??= JsonBody::of($this, static::FILE);
    }

    /**
     * The account that the request is about: here the one in the query, or the user's first.
     *
     * @throws Refusal where it is missing; whether it is the user's {@see authorize()} asks
     */
    public function account(): AccountRow
    {
        return $this->account ??= $this->findAccount();
    }

    /** @throws Refusal where the address names no contract that is listed */
    public function contract(): ContractRow
    {
        return self::listed((string) $this->route('code'));
    }

    /** @throws Refusal */
    public static function listed(string $code): ContractRow
    {
        return ContractRow::query()->find($code) ?? throw WebRefusal::notFound("contract $code", '/api/contracts');
    }

    protected function findAccount(): AccountRow
    {
        $named = $this->query('account');

        return $named === null ? $this->trader()->accounts()->first() ?? throw WebRefusal::noAccount() : AccountRow::named($named);
    }

    /** @throws Refusal naming the first field that the address does not take */
    protected function mustKnow(string ...$known): void
    {
        foreach (array_keys($this->fields()) as $field) {
            if (! in_array($field, $known, true)) {
                throw Refusal::unreadable(InvalidDocument::at("/$field", 'an unknown field', 'only '.implode(', ', $known)));
            }
        }
    }

    /** @throws Refusal where a query parameter is no whole number within these limits */
    protected function whole(string $name, int $default, int $least, int $most): int
    {
        $value = $this->query($name, (string) $default);
        $number = is_string($value) && preg_match('/^\d{1,15}$/', $value) === 1 ? (int) $value : null;

        return $number !== null && $number >= $least && $number <= $most ? $number
            : throw Refusal::invalid($name, $number ?? $value, "a whole number from $least to $most");
    }
}
