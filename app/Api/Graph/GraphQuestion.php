<?php

declare(strict_types=1);

namespace App\Api\Graph;

use App\Api\Problem;
use App\Database\Patience;
use App\Queries\Reach;
use GraphQL\Error\ClientAware;
use GraphQL\Error\Error;
use GraphQL\Executor\ExecutionResult;
use GraphQL\GraphQL;
use GraphQL\Validator\DocumentValidator;
use GraphQL\Validator\Rules\QueryComplexity;
use GraphQL\Validator\Rules\QueryDepth;

/** One question and its answer, within bounds: how deep, how many fields, how many objects, how long. */
final class GraphQuestion
{
    private const DEPTH = 16;

    private const FIELDS = 1000;

    private const CHARACTERS = 50_000;

    /** Questions to begin with. */
    public const EXAMPLES = [
        'Everything at a site' => <<<'GRAPH'
            {
              site(known: "Orrin Pier") {
                name
                prefixes(first: 5, kind: "subnet", stage: "live") {
                  items {
                    prefix name
                    vlan { number name }
                    addresses(first: 3) {
                      items { address name records { items { owner type data } } }
                    }
                    scopes { items { name ranges servers leases(first: 3) { items { address client now } } } }
                  }
                  next
                }
              }
            }
            GRAPH,
        'Zones and how many of their records are aliases' => <<<'GRAPH'
            {
              zones(first: 10) {
                items { title serial view { name } records(type: "CNAME", first: 5) { items { owner data } next } }
              }
            }
            GRAPH,
        'Who holds an address' => <<<'GRAPH'
            {
              prefixes(holds: "10.36.8.20") {
                items { prefix name site { name } tenant { name } addresses(within: "10.36.8.20/32") { items { name mac owner } } }
              }
            }
            GRAPH,
    ];

    /**
     * @param  array<mixed>  $variables
     * @return array<string, mixed> data and errors, as the specification has them
     */
    public static function answer(Reach $reach, string $query, array $variables, ?string $operation): array
    {
        if (strlen($query) > self::CHARACTERS) {
            throw Problem::of(413, 'too-large', 'A question has at most '.number_format(self::CHARACTERS).' characters.');
        }
        $named = array_filter($variables, is_string(...), ARRAY_FILTER_USE_KEY);
        $rules = [...DocumentValidator::allRules(), new QueryDepth(self::DEPTH), new QueryComplexity(self::FIELDS)];
        $result = Patience::within(GraphLoader::SECONDS, static fn (): ExecutionResult => GraphQL::executeQuery(
            GraphSchema::of($reach), $query, null, null, $named, $operation, null, array_values($rules),
        ));
        $result->setErrorFormatter(self::told(...));

        return $result->toArray();
    }

    /**
     * A fault for people.
     *
     * @param  array<string, mixed>  $error
     */
    public static function fault(array $error): string
    {
        $at = $error['locations'][0] ?? null;
        $message = is_string($error['message'] ?? null) ? $error['message'] : '';

        return is_array($at) && is_int($at['line'] ?? null) && is_int($at['column'] ?? null)
            ? "line $at[line], column $at[column]: $message" : $message;
    }

    /**
     * Nothing of the inside is told.
     *
     * @return array{message: string, locations?: array<int, array{line: int, column: int}>, path?: array<int, int|string>,
     *     extensions?: array<string, mixed>}
     */
    private static function told(\Throwable $error): array
    {
        $cause = $error->getPrevious() ?? ($error instanceof Error ? null : $error);
        $message = $error->getMessage();
        $code = 'bad-question';
        if ($cause !== null && Patience::isOver($cause)) {
            $message = GraphLoader::tooLong();
        } elseif ($cause !== null && ! ($cause instanceof ClientAware && $cause->isClientSafe())) {
            $problem = Problem::from($cause);
            [$message, $code] = [$problem->words(), $problem->name];
            $problem->status < 500 || report($cause);
        }

        $told = ['message' => $message, 'extensions' => ['code' => $code]];
        if ($error instanceof Error && $error->getLocations() !== []) {
            $told['locations'] = array_map(static fn ($l): array => $l->toArray(), array_values($error->getLocations()));
        }
        if ($error instanceof Error && $error->getPath() !== null) {
            $told['path'] = $error->getPath();
        }

        return $told;
    }
}
