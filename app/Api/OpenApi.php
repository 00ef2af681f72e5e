<?php

declare(strict_types=1);

namespace App\Api;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Inputs;
use App\Acts\Engine\Kind;
use App\Acts\Registry;

/** The description of the programs' door (OpenAPI 3.1), made from what acts and lists declare. */
final class OpenApi
{
    /** @return array<string, mixed> */
    public static function document(): array
    {
        $paths = [];
        foreach (array_keys(Collections::OF) as $collection) {
            $paths["/$collection"] = ['get' => self::list($collection)];
            $paths["/$collection/{known}"] = ['get' => self::one($collection)];
        }
        foreach (Registry::ACTS as $act) {
            $paths['/acts/'.$act::key()] = ['post' => self::act($act)];
        }
        $paths['/acts'] = ['post' => self::several()];
        ksort($paths);

        return [
            'openapi' => '3.1.0',
            'info' => [
                'title' => 'Harbor Post', 'version' => '1',
                'description' => 'Prefixes, addresses, names and leases of one plan. '
                    .'Every write is an act with the checks and the rights of the pages.',
                'license' => ['name' => 'Proprietary', 'identifier' => 'LicenseRef-Proprietary'],
            ],
            'servers' => [['url' => at('api.v1')]],
            'security' => [['token' => []]],
            'tags' => [
                ['name' => 'lists', 'description' => 'Objects of the plan, read.'],
                ['name' => 'acts', 'description' => 'What is done to them.'],
            ],
            'paths' => $paths,
            'components' => [
                'securitySchemes' => [
                    'token' => ['type' => 'http', 'scheme' => 'bearer', 'description' => 'Made on one\'s own page, shown once.'],
                ],
                'schemas' => self::schemas(),
                'responses' => [
                    'Problem' => [
                        'description' => 'What did not go (RFC 9457).',
                        'content' => ['application/problem+json' => ['schema' => ['$ref' => '#/components/schemas/Problem']]],
                    ],
                ],
            ],
        ];
    }

    /** @return array<string, mixed> */
    private static function list(string $collection): array
    {
        $parameter = static fn (string $name, array $schema, string $says): array => [
            'name' => $name, 'in' => 'query', 'schema' => $schema, 'description' => $says,
        ];
        $parameters = [
            $parameter('limit', ['type' => 'integer', 'minimum' => 1, 'maximum' => 1000, 'default' => 100], 'objects of a page'),
            $parameter('after', ['type' => 'string'], 'the id behind which the page begins; Link rel="next" holds it'),
            $parameter('fields', ['type' => 'string'], 'names of fields, apart by commas'),
        ];
        if (Included::names($collection) !== []) {
            $parameters[] = $parameter(
                'include',
                ['type' => 'string'],
                'what each names and is given beside it as "included", apart by commas: '.implode(', ', Included::names($collection)),
            );
        }
        foreach (Collections::filters($collection) as $filter) {
            $parameters[] = $parameter(
                $filter,
                ['type' => 'string'],
                $filter === 'name' ? 'the start of the name' : "those of this $filter",
            );
        }

        return [
            'operationId' => 'list-'.$collection, 'tags' => ['lists'], 'summary' => "List $collection",
            'description' => "Those of the $collection that the person of the token may see. "
                .'With Accept: application/x-ndjson all of them, a line each.',
            'parameters' => $parameters,
            'responses' => [
                '200' => [
                    'description' => 'A page', 'content' => [
                        'application/json' => ['schema' => ['$ref' => '#/components/schemas/Page']],
                        'application/x-ndjson' => ['schema' => ['$ref' => '#/components/schemas/Object']],
                    ],
                ],
                'default' => ['$ref' => '#/components/responses/Problem'],
            ],
        ];
    }

    /** @return array<string, mixed> */
    private static function one(string $collection): array
    {
        return [
            'operationId' => 'get-'.$collection, 'tags' => ['lists'], 'summary' => "Read one of $collection",
            'description' => 'By its id, or by what people know of it: a prefix, a number, a name. '
                .'What may be several is 409 with the candidates.',
            'parameters' => [
                ['name' => 'known', 'in' => 'path', 'required' => true, 'schema' => ['type' => 'string'], 'description' => 'id or name'],
            ],
            'responses' => [
                '200' => [
                    'description' => 'The object; ETag holds its version',
                    'content' => ['application/json' => ['schema' => ['$ref' => '#/components/schemas/Object']]],
                ],
                '304' => ['description' => 'As If-None-Match has it'],
                'default' => ['$ref' => '#/components/responses/Problem'],
            ],
        ];
    }

    /**
     * @param  class-string<Act>  $act
     * @return array<string, mixed>
     */
    private static function act(string $act): array
    {
        return [
            'operationId' => $act::key(), 'tags' => ['acts'], 'summary' => ucfirst(str_replace('-', ' ', $act::key())),
            'description' => self::says($act),
            'parameters' => [self::key(), self::match()],
            'requestBody' => ['required' => true, 'content' => ['application/json' => ['schema' => [
                'type' => 'object', 'additionalProperties' => false,
                'properties' => ['input' => self::input($act)] + self::around(), 'required' => ['input'],
            ]]]],
            'responses' => self::answers(),
        ];
    }

    /** @return array<string, mixed> */
    private static function several(): array
    {
        return [
            'operationId' => 'several-acts', 'tags' => ['acts'], 'summary' => 'Several acts as one',
            'description' => 'All of them or none, in order; each may rest on what those before it write.',
            'parameters' => [self::key()],
            'requestBody' => ['required' => true, 'content' => ['application/json' => ['schema' => [
                'type' => 'object', 'required' => ['acts'],
                'properties' => ['acts' => ['type' => 'array', 'minItems' => 1, 'maxItems' => 1000, 'items' => [
                    'type' => 'object', 'required' => ['act', 'input'],
                    'properties' => [
                        'act' => ['type' => 'string', 'enum' => array_map(static fn (string $a): string => $a::key(), Registry::ACTS)],
                        'input' => ['type' => 'object'],
                    ],
                ]]] + self::around(),
            ]]]],
            'responses' => self::answers(),
        ];
    }

    /** @return array<string, mixed> */
    private static function match(): array
    {
        return [
            'name' => 'If-Match', 'in' => 'header', 'schema' => ['type' => 'string', 'pattern' => '^(\\*|"[0-9]{1,9}")$'],
            'description' => 'The ETag of the one object that the act is about: of another version nothing is written (412).',
        ];
    }

    /** @return array<string, mixed> */
    private static function key(): array
    {
        return [
            'name' => 'Idempotency-Key', 'in' => 'header', 'schema' => ['type' => 'string', 'maxLength' => 80],
            'description' => 'Sent again within a day, the request is answered as it was, and not carried out again.',
        ];
    }

    /** @return array<string, mixed> */
    private static function around(): array
    {
        return [
            'rehearse' => ['type' => 'boolean', 'description' => 'Answers what follows; writes nothing.'],
            'draft' => ['type' => 'boolean', 'description' => 'Adds to the open draft of the person.'],
            'reason' => ['type' => 'string', 'maxLength' => 250, 'description' => 'Needed in spite of warnings; kept in the history.'],
            'expects' => [
                'type' => 'object',
                'additionalProperties' => ['type' => 'integer'],
                'description' => 'Versions that were seen, by "kind:id".',
            ],
        ];
    }

    /** @return array<int|string, mixed> */
    private static function answers(): array
    {
        $told = ['application/json' => ['schema' => ['$ref' => '#/components/schemas/Outcome']]];

        return [
            '200' => ['description' => 'Rehearsed', 'content' => $told], '201' => ['description' => 'Committed', 'content' => $told],
            '202' => ['description' => 'Kept in the draft'], 'default' => ['$ref' => '#/components/responses/Problem'],
        ];
    }

    /**
     * @param  class-string<Act>  $act
     * @return array<string, mixed>
     */
    private static function input(string $act): array
    {
        $properties = $required = [];
        $fields = Inputs::of($act);
        foreach ((new \ReflectionClass($act))->getConstructor()?->getParameters() ?? [] as $parameter) {
            $field = $fields[$parameter->getName()] ?? null;
            if ($field === null) {
                continue;
            }
            $properties[$parameter->getName()] = self::schema($field);
            if (! $parameter->isOptional() && $field->kind !== Kind::NewId) {
                $required[] = $parameter->getName();
            }
        }

        return ['type' => 'object', 'additionalProperties' => false, 'properties' => $properties === [] ? new \stdClass : $properties]
            + ($required === [] ? [] : ['required' => $required]);
    }

    /** @return array<string, mixed> */
    private static function schema(Field $field): array
    {
        $says = ['title' => $field->label] + ($field->help === '' ? [] : ['description' => $field->help]);

        return $says + match ($field->kind) {
            Kind::Choice => ['type' => 'string', 'enum' => $field->choices],
            Kind::Number => ['type' => 'integer', 'minimum' => $field->least, 'maximum' => $field->most],
            Kind::Flag => ['type' => 'boolean'],
            Kind::Ids, Kind::Texts, Kind::Lines => ['type' => 'array', 'items' => ['type' => 'string']],
            Kind::Map => ['type' => 'object', 'additionalProperties' => ['type' => 'string']],
            Kind::Secret => ['type' => 'string', 'writeOnly' => true, 'maxLength' => $field->most],
            Kind::Id, Kind::NewId => ['type' => 'string'],
            default => ['type' => 'string', 'maxLength' => $field->most],
        };
    }

    /**
     * @param  class-string<Act>  $act
     * @return string the first sentence of what stands above the act
     */
    private static function says(string $act): string
    {
        $text = (string) preg_replace('/^\s*\/?\*+\/?|\s*\*\/$/m', '', (string) (new \ReflectionClass($act))->getDocComment());

        return trim((string) preg_replace('/\s+/', ' ', $text)) ?: ucfirst(str_replace('-', ' ', $act::key())).'.';
    }

    /** @return array<string, mixed> */
    private static function schemas(): array
    {
        $text = ['type' => 'string'];

        return [
            'Object' => [
                'type' => 'object', 'required' => ['id', 'line'], 'additionalProperties' => true,
                'properties' => ['id' => ['type' => ['string', 'integer']], 'line' => $text, 'version' => ['type' => 'integer']],
            ],
            'Page' => [
                'type' => 'object', 'required' => ['items', 'next'],
                'properties' => [
                    'items' => ['type' => 'array', 'items' => ['$ref' => '#/components/schemas/Object']],
                    'next' => ['type' => ['string', 'null']],
                ],
            ],
            'Outcome' => [
                'type' => 'object', 'required' => ['committed', 'written', 'checks'],
                'properties' => [
                    'committed' => ['type' => 'boolean'], 'bulk' => ['type' => 'integer'],
                    'written' => ['type' => 'array', 'items' => ['type' => 'object']],
                    'checks' => ['type' => 'array', 'items' => ['type' => 'object']],
                    'later' => ['type' => 'array', 'items' => $text], 'needs_agreement' => ['type' => 'array', 'items' => $text],
                    'trouble' => $text,
                ],
            ],
            'Problem' => [
                'type' => 'object', 'required' => ['type', 'title', 'status', 'detail'],
                'properties' => [
                    'type' => $text, 'title' => $text, 'status' => ['type' => 'integer'], 'detail' => $text,
                    'errors' => ['type' => 'array', 'items' => ['type' => 'object', 'properties' => [
                        'pointer' => $text, 'code' => $text, 'detail' => $text, 'fix' => $text, 'standard' => $text, 'offer' => $text,
                    ]]],
                ],
            ],
        ];
    }
}
