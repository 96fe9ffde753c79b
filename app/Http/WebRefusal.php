<?php

declare(strict_types=1);

namespace App\Http;

use Lotrik\Document\InvalidLine;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** What the web refuses before the desk is asked: bodies, what a user keeps, how often somebody asks. The words are written here. */
final class WebRefusal
{
    /**
     * @param string $what   is wrong with it
     * @param string $remedy what to send
     */
    public static function invalidJson(
        string $what,
        string $remedy = 'send one JSON object such as {"client_id": "…"}',
        ?string $pointer = null,
    ): Refusal {
        return new Refusal(RefusalCode::InvalidJson, "$what; $remedy", $pointer);
    }

    public static function bodyTooLarge(int $bytes, int $most): Refusal
    {
        return new Refusal(RefusalCode::TooLarge, "the body has $bytes bytes; send at most $most");
    }

    public static function tapeTooLong(int $most): Refusal
    {
        return new Refusal(
            RefusalCode::TooLong,
            "a tape for the page has at most $most prints of the contract; use php artisan lotrik:rehearse for longer ones",
            '/tape',
        );
    }

    /** @param string $pointer to the field with the lines */
    public static function line(InvalidLine $fault, string $pointer): Refusal
    {
        return new Refusal(RefusalCode::Invalid, $fault->getMessage(), $pointer);
    }

    public static function controlCharacters(string $pointer): Refusal
    {
        $shown = addcslashes($pointer, "\0..\37\177");

        return new Refusal(RefusalCode::Invalid, "$shown: found control characters, expected one line of text", $pointer);
    }

    /** @param list<string> $known */
    public static function unknownQuery(string $name, array $known): Refusal
    {
        return new Refusal(
            RefusalCode::Invalid,
            'the query: found "'.mb_scrub($name).'", expected '
                .($known === [] ? 'none: this address takes no query' : 'only '.implode(', ', $known)),
        );
    }

    public static function noAccount(): Refusal
    {
        return new Refusal(RefusalCode::UnknownAccount, 'you have no account yet');
    }

    /**
     * @param string $what    such as "exit plan 7"
     * @param string $address that lists what there is
     */
    public static function notFound(string $what, string $address): Refusal
    {
        return new Refusal(RefusalCode::NotFound, "there is no $what; GET $address lists what there is");
    }

    public static function unknownPlan(mixed $plan): Refusal
    {
        return new Refusal(
            RefusalCode::UnknownPlan,
            'exit_plan: found '.json_encode($plan).', expected the id of a plan (GET /api/exit-plans lists them) or a plan document',
            '/exit_plan',
        );
    }

    public static function noPrice(string $contract): Refusal
    {
        return new Refusal(RefusalCode::NoPrice, "$contract has not traded yet; give a price", '/price');
    }

    public static function versionChanged(int $found, int $stored): Refusal
    {
        return new Refusal(
            RefusalCode::VersionChanged,
            "version: found $found, expected $stored, since somebody changed the plan meanwhile; read it again",
            '/version',
        );
    }

    public static function planInUse(string $plan, string $where): Refusal
    {
        return new Refusal(RefusalCode::PlanInUse, "$plan is in use: $where; put another plan on it, or close it, first");
    }

    public static function nameTaken(string $plan): Refusal
    {
        return new Refusal(RefusalCode::NameTaken, "there is a plan \"$plan\" already; give this one another name", '/name');
    }

    public static function tooManyLevels(int $most): Refusal
    {
        return new Refusal(RefusalCode::TooManyLevels, "there are $most marked levels already; delete one first");
    }

    public static function tooManyFills(int $most): Refusal
    {
        return new Refusal(RefusalCode::TooManyFills, "there is room for $most fills from other programs; take the old ones away first");
    }
}
