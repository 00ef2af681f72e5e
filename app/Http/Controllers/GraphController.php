<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Api\Graph\GraphQuestion;
use App\Api\Graph\GraphSchema;
use App\Api\Problem;
use App\Api\Told;
use GraphQL\Utils\SchemaPrinter;
use Illuminate\Contracts\View\View;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Questions across objects, as GraphQL: for programs, and on a page to try them. */
final class GraphController extends Controller
{
    public function ask(Request $request): JsonResponse
    {
        if ($request->isMethod('GET')) {
            $body = ['query' => $request->query('query'), 'variables' => json_decode((string) $request->string('variables', '{}'), true)];
        } elseif (! str_contains((string) $request->header('Content-Type'), 'json')) {
            throw Problem::of(415, 'media-type', 'Send application/json.');
        } else {
            $body = json_decode($request->getContent(), true, 32);
        }
        if (! is_array($body) || ! is_string($body['query'] ?? null) || ! is_array($body['variables'] ?? [])) {
            throw Problem::of(400, 'bad-body', 'Send an object with "query", a text, and "variables", an object, where there are any.');
        }
        $name = is_string($body['operationName'] ?? null) ? $body['operationName'] : null;

        $answer = GraphQuestion::answer($this->reach(), $body['query'], $body['variables'] ?? [], $name);

        return new JsonResponse($answer, 200, [], Told::JSON);
    }

    public function page(Request $request): View
    {
        $query = (string) $request->string('query');
        $answer = $query === '' ? null : GraphQuestion::answer($this->reach(), $query, [], null);

        return view('graph', [
            'query' => $query === '' ? GraphQuestion::EXAMPLES['Everything at a site'] : $query,
            'answer' => $answer === null ? null : json_encode($answer, Told::JSON | JSON_PRETTY_PRINT),
            'faults' => array_map(GraphQuestion::fault(...), $answer['errors'] ?? []),
            'types' => self::types(SchemaPrinter::doPrint(GraphSchema::of($this->reach()))),
            'examples' => GraphQuestion::EXAMPLES,
        ]);
    }

    /**
     * The schema by its types, the questions first.
     *
     * @return array<string, string>
     */
    private static function types(string $schema): array
    {
        $types = [];
        foreach (preg_split('/\n\n(?=(?:"""|type ))/', trim($schema)) ?: [] as $text) {
            if (preg_match('/^type (\w+)/m', $text, $m) === 1) {
                $types[$m[1]] = $text;
            }
        }
        ksort($types);

        return ['Query' => $types['Query'] ?? ''] + $types;
    }
}
