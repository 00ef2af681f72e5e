<?php

declare(strict_types=1);

namespace App\Api\Graph;

use App\Api\Collections;
use App\Api\Included;
use App\Api\Known;
use App\Models\Model;
use App\Queries\Reach;
use GraphQL\Error\UserError;
use GraphQL\Type\Definition\CustomScalarType;
use GraphQL\Type\Definition\ListOfType;
use GraphQL\Type\Definition\NonNull;
use GraphQL\Type\Definition\ObjectType;
use GraphQL\Type\Definition\Type;
use GraphQL\Type\Schema;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Str;

/**
 * The lists of programs as one graph, made from what they declare: each object with what it names and with what names it. It reads and
 * writes nothing.
 */
final class GraphSchema
{
    /** Objects of a page, where nothing is said, and at most. */
    public const FIRST = 50;

    public const MOST = 500;

    /** @var array<string, ObjectType> */
    private array $types = [];

    /** @var array<string, ObjectType> */
    private array $pages = [];

    /** Serials and counters are longer than the language's own whole numbers, which have 31 bits. */
    private readonly CustomScalarType $whole;

    private function __construct(private readonly GraphLoader $loader, private readonly Reach $reach)
    {
        $whole = static fn (mixed $v): ?int => is_numeric($v) ? (int) $v : null;
        $this->whole = new CustomScalarType(['name' => 'Whole', 'serialize' => $whole]);
    }

    public static function of(Reach $reach): Schema
    {
        return (new self(new GraphLoader($reach), $reach))->schema();
    }

    /** How the object of a list is called: address, zone, layer_2_domain. */
    public static function single(string $collection): string
    {
        return str_replace('-', '_', Str::singular($collection));
    }

    private function schema(): Schema
    {
        return new Schema(['query' => new ObjectType(['name' => 'Query', 'fields' => function (): array {
            $fields = [];
            foreach (array_keys(Collections::OF) as $collection) {
                $fields[str_replace('-', '_', $collection)] = [
                    'type' => Type::nonNull($this->page($collection)), 'args' => self::arguments($collection),
                    'resolve' => fn (mixed $root, array $args): array => $this->loader->list(
                        $collection, self::first($args), self::text($args['after'] ?? null), self::filters($args),
                    ),
                ];
                $fields[self::single($collection)] = [
                    'type' => $this->type($collection),
                    'description' => 'by its id, or by what people know of it',
                    'args' => ['known' => Type::nonNull(Type::string())],
                    'resolve' => fn (mixed $root, array $args): mixed => Known::row(
                        $collection, (string) self::text($args['known']), $this->reach,
                    ),
                ];
            }

            return $fields;
        }])]);
    }

    private function type(string $collection): ObjectType
    {
        return $this->types[$collection] ??= new ObjectType([
            'name' => Str::studly(self::single($collection)),
            'fields' => function () use ($collection): array {
                $fields = ['id' => [
                    'type' => Type::nonNull(Type::id()), 'resolve' => static fn (Model $row): string => (string) $row->getKey(),
                ]];
                foreach (self::kinds($collection) as $name => $kind) {
                    $fields[$name] = ['type' => $this->scalar($kind), 'resolve' => self::value(...)];
                }
                foreach (Included::named($collection) as $name => [$column, $other]) {
                    $fields[$name] = [
                        'type' => $this->type($other),
                        'resolve' => fn (Model $row): mixed => $this->loader->one($other, self::text($row->getAttribute($column))),
                    ];
                }
                foreach (Included::naming($collection) as $other => $column) {
                    $fields[str_replace('-', '_', $other)] = [
                        'type' => Type::nonNull($this->page($other)), 'args' => self::arguments($other, $column),
                        'resolve' => fn (Model $row, array $args): mixed => $this->loader->many(
                            $other, $column, (string) $row->getKey(), self::first($args), self::text($args['after'] ?? null),
                            self::filters($args),
                        ),
                    ];
                }

                return $fields;
            },
        ]);
    }

    private function page(string $collection): ObjectType
    {
        return $this->pages[$collection] ??= new ObjectType([
            'name' => Str::studly(str_replace('-', '_', $collection)),
            'fields' => fn (): array => [
                'items' => [
                    'type' => new NonNull(new ListOfType(new NonNull($this->type($collection)))),
                    'resolve' => static fn (array $page): mixed => $page['items'],
                ],
                'next' => [
                    'type' => Type::id(), 'description' => 'where there are more: what "after" takes to go on',
                    'resolve' => static fn (array $page): mixed => $page['next'],
                ],
            ],
        ]);
    }

    /** @return array<string, array<string, mixed>> */
    private static function arguments(string $collection, ?string $fixed = null): array
    {
        $arguments = [
            'first' => ['type' => Type::int(), 'defaultValue' => self::FIRST, 'description' => 'at most '.self::MOST],
            'after' => ['type' => Type::id()],
        ];
        foreach (array_diff(Collections::filters($collection), [$fixed]) as $filter) {
            $arguments[$filter] = ['type' => Type::string()];
        }

        return $arguments;
    }

    /** @param  array<mixed>  $args */
    private static function first(array $args): int
    {
        $first = is_int($args['first'] ?? null) ? $args['first'] : self::FIRST;

        return $first >= 1 && $first <= self::MOST ? $first : throw new UserError('"first" is from 1 to '.self::MOST.'.');
    }

    /**
     * @param  array<mixed>  $args
     * @return array<string, string>
     */
    private static function filters(array $args): array
    {
        return array_map(strval(...), array_filter(
            array_diff_key($args, ['first' => 1, 'after' => 1]),
            is_scalar(...),
        ));
    }

    private static function value(Model $row, mixed $args, mixed $context, \GraphQL\Type\Definition\ResolveInfo $asked): mixed
    {
        // An object is made once, however many of its fields are asked for.
        static $told = new \WeakMap;
        $told[$row] ??= Collections::object(array_search($row::class, Collections::OF, true) ?: '', $row);
        $value = $told[$row][$asked->fieldName] ?? null;

        $flat = ! is_array($value) || array_is_list($value);

        return $flat ? $value : [json_encode($value, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE)];
    }

    private function scalar(string $kind): Type
    {
        return match ($kind) {
            'integer' => $this->whole,
            'boolean' => Type::boolean(),
            'list' => Type::listOf(Type::string()),
            default => Type::string(),
        };
    }

    private static function text(mixed $value): ?string
    {
        return is_scalar($value) ? (string) $value : null;
    }

    /** @return array<string, string> fields and kinds, kept while the tables are what they are */
    private static function kinds(string $collection): array
    {
        $mark = (string) \Illuminate\Support\Facades\DB::table('migrations')->max('id');

        return Cache::remember("graph-$collection-$mark", 3600, static fn (): array => Collections::kinds($collection));
    }
}
