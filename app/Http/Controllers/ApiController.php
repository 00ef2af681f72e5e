<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Drafts\Drafts;
use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\Inputs;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Understanding;
use App\Acts\Registry;
use App\Api\Collections;
use App\Api\Example;
use App\Api\Included;
use App\Api\IntoDraft;
use App\Api\Known;
use App\Api\OpenApi;
use App\Api\Problem;
use App\Api\Told;
use App\Http\Middleware\Answering;
use App\Models\Model;
use App\Models\Token;
use Illuminate\Contracts\View\View;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Collection;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** Programs read lists and objects, and do acts: with the checks and the rights of the pages. */
final class ApiController extends Controller
{
    private const PAGE = 100;

    private const MOST = 1000;

    private const SEVERAL = 1000;

    private const LINES = 'application/x-ndjson';

    /** What stands around the input of an act. */
    private const AROUND = ['rehearse' => 1, 'draft' => 1, 'reason' => 1, 'expects' => 1];

    public function __construct(private readonly Acts $acts)
    {
    }

    public function index(): JsonResponse
    {
        $lists = array_map(static fn (string $c): string => at('api.v1.list', $c), array_keys(Collections::OF));

        return $this->json(
            ['lists' => $lists, 'acts' => array_map(static fn (string $a): string => at('api.v1.act', $a::key()), $this->mine())],
        );
    }

    /** The page about it, for people. */
    public function page(): View
    {
        $acts = $examples = [];
        foreach (Registry::ACTS as $act) {
            if ($act::permits($this->person())) {
                $examples[$act::key()] = Example::of($act);
                $acts[$act::key()] = array_map(
                    static fn (\ReflectionParameter $p): string => $p->getName().($p->isOptional() ? '' : '*'),
                    (new \ReflectionClass($act))->getConstructor()?->getParameters() ?? [],
                );
            }
        }
        ksort($acts);
        ksort($examples);
        $lists = array_combine(array_keys(Collections::OF), array_map(Collections::filters(...), array_keys(Collections::OF)));

        return view('api', ['acts' => $acts, 'examples' => $examples, 'lists' => $lists, 'base' => url(at('api.v1'))]);
    }

    public function openapi(): JsonResponse
    {
        return $this->json(OpenApi::document());
    }

    /** A page of a list, or all of it as lines. */
    public function list(Request $request, string $collection): JsonResponse|StreamedResponse
    {
        $query = Collections::query($collection, $this->reach()) ?? throw Problem::of(404, 'not-found', "There is no list of $collection.");
        $asked = $this->words($request);
        $limit = (int) ($asked['limit'] ?? self::PAGE);
        if ($limit < 1 || $limit > self::MOST) {
            throw Problem::of(400, 'bad-parameter', 'limit is from 1 to '.self::MOST.'.');
        }
        $only = $this->fields($asked);
        $after = $asked['after'] ?? '';
        $include = Included::read($collection, $asked['include'] ?? '');
        Collections::filter($collection, $query, array_diff_key($asked, ['limit' => 1, 'fields' => 1, 'after' => 1, 'include' => 1]));
        $key = $query->getModel()->getQualifiedKeyName();
        $query->with(Collections::with($collection))->reorder($key);
        if (in_array(self::LINES, $request->getAcceptableContentTypes(), true)) {
            return new StreamedResponse(function () use ($query, $collection, $only, $include): void {
                foreach ($query->lazyById(500)->chunk(500) as $rows) {
                    foreach ($this->objects($collection, $rows->collect(), $only, $include) as $object) {
                        echo json_encode($object, Told::JSON)."\n";
                    }
                }
            }, 200, ['Content-Type' => self::LINES]);
        }
        $rows = $query->when($after !== '', fn ($q) => $q->where($key, '>', $after))->limit($limit + 1)->get();
        $next = $rows->count() > $limit ? (string) $rows[$limit - 1]?->getKey() : null;
        $headers = $next === null ? [] : [
            'Link' => '<'.$request->fullUrlWithQuery(['after' => $next]).'>; rel="next"',
        ];

        return $this->json([
            'items' => $this->objects($collection, $rows->take($limit)->toBase(), $only, $include),
            'next' => $next,
        ], 200, $headers);
    }

    /**
     * @param  Collection<int, covariant Model>  $rows
     * @param  list<string>  $only  fields that are asked for
     * @param  list<string>  $include
     * @return list<array<string, mixed>>
     */
    private function objects(string $collection, Collection $rows, array $only, array $include): array
    {
        $beside = Included::of($collection, $rows, $include, $this->reach());

        return array_values($rows->map(static fn (Model $row): array => Collections::object($collection, $row, $only)
            + (isset($beside[$row->getKey()]) ? ['included' => $beside[$row->getKey()]] : []))->all());
    }

    /** One object, by its id or by what people know of it. */
    public function show(Request $request, string $collection, string $known): JsonResponse
    {
        if (! isset(Collections::OF[$collection])) {
            throw Problem::of(404, 'not-found', "There is no list of $collection.");
        }
        $row = Known::row($collection, rawurldecode($known), $this->reach())
            ?? throw Problem::of(404, 'not-found', 'Nothing is here, or it is not available to you.');
        $asked = $this->words($request);
        $include = Included::read($collection, $asked['include'] ?? '');
        // The version is of the object alone: what is beside it changes without it.
        $etag = $row->versioned() && $include === [] ? ['ETag' => "\"$row->version\""] : [];
        if ($etag !== [] && $request->header('If-None-Match') === $etag['ETag']) {
            return new JsonResponse(null, 304, $etag);
        }

        return $this->json($this->objects($collection, collect([$row]), $this->fields($asked), $include)[0], 200, $etag);
    }

    public function act(Request $request, string $act): JsonResponse
    {
        $body = $this->body($request);
        $given = [
            'act' => $act,
            'input' => $body['input'] ?? array_diff_key($body, self::AROUND),
        ] + array_intersect_key($body, self::AROUND);

        $read = $this->read($given, '');

        return $this->carry([$read], [$this->expects($given) + self::matched($request, $read)], $body, '');
    }

    /** Several acts as one transaction: all of them or none. */
    public function several(Request $request): JsonResponse
    {
        $body = $this->body($request);
        $list = $body['acts'] ?? null;
        if (! is_array($list) || $list === [] || count($list) > self::SEVERAL || ! array_is_list($list)) {
            throw Problem::of(400, 'bad-body', '"acts" is a list of 1 to '.self::SEVERAL.' objects with "act" and "input".');
        }
        if ($request->hasHeader('If-Match')) {
            throw Problem::of(400, 'bad-parameter', 'If-Match is of one object: of several acts each has its versions in "expects".');
        }
        $acts = $expects = [];
        foreach ($list as $i => $given) {
            $acts[] = $this->read(is_array($given) ? $given : [], "/acts/$i");
            $expects[] = $this->expects(is_array($given) ? $given : []);
        }

        return $this->carry($acts, $expects, $body, '/acts');
    }

    /**
     * @param  list<Act>  $acts
     * @param  list<array<string, int>>  $expects
     * @param  array<mixed>  $body
     */
    private function carry(array $acts, array $expects, array $body, string $at): JsonResponse
    {
        $person = $this->person();
        if (($body['rehearse'] ?? false) === true) {
            return $this->json(Told::outcome($this->acts->rehearse($person, $acts, $expects), false));
        }
        if (($body['draft'] ?? false) === true) {
            return $this->draft($acts, $expects, $at);
        }
        $reason = is_string($body['reason'] ?? null) ? mb_strimwidth($body['reason'], 0, 250, '…') : null;
        $witness = request()->attributes->get('answering');
        $outcome = $this->acts->commit(
            $person, $acts, $expects, $reason, witness: $witness instanceof Answering ? $witness : null,
        );
        if ($outcome->blocked()) {
            throw Problem::outcome($outcome, $at);
        }

        return $this->json(Told::outcome($outcome, true), 201);
    }

    /**
     * @param  list<Act>  $acts
     * @param  list<array<string, int>>  $expects
     */
    private function draft(array $acts, array $expects, string $at): JsonResponse
    {
        $person = $this->person();
        $kept = IntoDraft::keep($this->acts, $person, $acts, $expects);
        if ($kept->blocked()) {
            throw Problem::outcome($kept, $at);
        }

        return $this->json(['draft' => Drafts::open($person)?->id, 'kept' => count($acts)], 202);
    }

    /** @param  array<mixed>  $given */
    private function read(array $given, string $at): Act
    {
        $key = is_string($given['act'] ?? null) ? $given['act'] : '';
        $class = Registry::find($key) ?? throw Problem::of(404, 'no-such-act', "There is no act \"$key\".");
        $token = request()->attributes->get('token');
        if (! $token instanceof Token || ! $token->lets($key)) {
            throw Problem::of(403, 'not-of-this-token', "This token does not do $key.");
        }
        if (! $class::permits($this->person())) {
            throw Problem::of(403, 'not-allowed', 'Not available to you: your roles do not include this.');
        }
        try {
            return $class::fromInput(Understanding::of($class, is_array($given['input'] ?? null) ? $given['input'] : [], $this->person()));
        } catch (BadInput $e) {
            throw Problem::input($e, $at);
        }
    }

    /**
     * The version of the one object that an act is about, as the caller saw it (RFC 9110 §13.1.1).
     *
     * @return array<string, int>
     */
    private static function matched(Request $request, Act $act): array
    {
        $tag = trim((string) $request->header('If-Match'));
        if ($tag === '' || $tag === '*') {
            return [];
        }
        if (preg_match('/\A"(\d{1,9})"\z/', $tag, $m) !== 1) {
            throw Problem::of(400, 'bad-parameter', 'If-Match takes one ETag as it was given, for instance "3".');
        }
        foreach (Inputs::of($act::class) as $name => $field) {
            $ids = in_array($field->kind, [Kind::Id, Kind::Ids], true) ? array_filter((array) ($act->toInput()[$name] ?? [])) : [];
            if ($field->of !== null && count($ids) === 1) {
                return [$field->of::noun().':'.reset($ids) => (int) $m[1]];
            }
        }
        throw Problem::of(400, 'bad-parameter', 'This act is not about one object: give the versions that you saw in "expects".');
    }

    /**
     * Versions that the caller saw, in the body by "noun:id".
     *
     * @param  array<mixed>  $given
     * @return array<string, int>
     */
    private function expects(array $given): array
    {
        $expects = [];
        foreach (is_array($given['expects'] ?? null) ? $given['expects'] : [] as $object => $version) {
            if (! is_int($version) || ! str_contains((string) $object, ':')) {
                throw Problem::of(400, 'bad-body', '"expects" holds versions by "noun:id".');
            }
            $expects[(string) $object] = $version;
        }

        return $expects;
    }

    /** @return list<class-string<Act>> acts that the person of the token may do with it */
    private function mine(): array
    {
        $token = request()->attributes->get('token');

        return array_values(array_filter(
            Registry::ACTS,
            fn (string $a): bool => $a::permits($this->person()) && $token instanceof Token && $token->lets($a::key()),
        ));
    }

    /** @return array<mixed> */
    private function body(Request $request): array
    {
        if (! str_contains((string) $request->header('Content-Type'), 'json')) {
            throw Problem::of(415, 'media-type', 'Send application/json.');
        }
        $body = json_decode($request->getContent(), true, 32);

        return is_array($body) ? $body : throw Problem::of(400, 'bad-json', 'The body is no JSON object: '.json_last_error_msg().'.');
    }

    /** @return array<string, string> */
    private function words(Request $request): array
    {
        $words = [];
        foreach ($request->query->all() as $name => $value) {
            if (! is_string($value) || ! mb_check_encoding($value, 'UTF-8')) {
                throw Problem::of(400, 'bad-parameter', 'Each parameter takes one text in UTF-8.');
            }
            $words[(string) $name] = $value;
        }

        return $words;
    }

    /**
     * @param  array<string, string>  $asked
     * @return list<string>
     */
    private function fields(array $asked): array
    {
        return array_values(array_filter(explode(',', $asked['fields'] ?? '')));
    }

    /**
     * @param  array<mixed>  $body
     * @param  array<string, string>  $headers
     */
    private function json(array $body, int $status = 200, array $headers = []): JsonResponse
    {
        return new JsonResponse($body, $status, $headers, Told::JSON);
    }
}
