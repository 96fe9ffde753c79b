<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Http\WebRefusal;
use App\Models\PlanRow;
use Lotrik\Document\InvalidDocument;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\Refusal\Refusal;

/** About the exit plans that a user keeps: the one in the address, a document to keep, or all of them in another order. */
final class PlanRequest extends ApiRequest
{
    /** @throws Refusal where the user has none of this number */
    public function stored(): PlanRow
    {
        $id = (string) $this->route('id');

        return (ctype_digit($id) ? PlanRow::findFor($this->trader()->id, (int) $id) : null) ?? throw WebRefusal::notFound(
            "exit plan $id",
            '/api/exit-plans',
        );
    }

    /**
     * The body: a document as it is, or as `document` alone, beside the version that was read.
     *
     * @throws Refusal
     */
    public function plan(): ExitPlan
    {
        $body = array_diff_key($this->fields(), $this->route('id') === null ? [] : ['version' => 1]);
        $inner = $body['document'] ?? null;
        try {
            return is_array($inner) && count($body) === 1 ? ExitPlan::fromArray($inner, '/document') : ExitPlan::fromArray($body);
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }
    }

    /** @return int|null the version that the change is made to; null where it was not said */
    public function version(): ?int
    {
        $version = $this->fields()['version'] ?? null;

        return $version === null || is_int($version)
            ? $version
            : throw Refusal::invalid('version', $version, 'the version that you have read');
    }

    /** @return mixed `ids`, which {@see \App\Plans\PlanShelf::arrange()} compares with what there is */
    public function ids(): mixed
    {
        $this->mustKnow('ids');

        return $this->fields()['ids'] ?? null;
    }
}
