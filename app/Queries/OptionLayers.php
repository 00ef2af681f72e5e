<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\ClientClass;
use App\Models\OptionValue;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\Server;
use HarborPost\Core\Dhcp\Option\OptionLayer;
use HarborPost\Core\Dhcp\Option\OptionStack;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\Option\StackedValue;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use Illuminate\Support\Collection;

/**
 * The options of a scope's clients by layer: organisation → server → site → prefix → scope → class → reservation, with what settings
 * hand down as options of their layer. What stands outside of scopes is read once for each object of this class.
 */
final class OptionLayers
{
    /** @var array<string, list<OptionValue>>|null "layer id" → values */
    private ?array $outer = null;

    /** @var Collection<int, ClientClass>|null */
    private ?Collection $classes = null;

    public function __construct(private readonly Inherited $inherited)
    {
    }

    /** @param  list<ClientClass>  $classes  those that the client is in, the first one counts */
    public function of(Scope $scope, ?Server $server = null, array $classes = [], ?Reservation $reservation = null): OptionStack
    {
        return OptionStack::of($this->values($scope, $server, $classes, $reservation));
    }

    /** @return Collection<int, ClientClass> in their order */
    public function classes(): Collection
    {
        return $this->classes ??= ClientClass::query()->with('optionValues')->orderBy('position')->orderBy('id')->get();
    }

    /** @return list<ClientClass> those that a client is in */
    public function classesOf(Packet $packet): array
    {
        return array_values($this->classes()->filter(static fn (ClientClass $c): bool => $c->rules()->matches($packet))->all());
    }

    /**
     * @param  list<ClientClass>  $classes
     * @return \Generator<int, StackedValue> from the outermost layer in
     */
    private function values(Scope $scope, ?Server $server, array $classes, ?Reservation $reservation): \Generator
    {
        $family = $scope->family();
        foreach ($this->inherited->chain($scope->prefix) as $at) {
            $layer = OptionLayer::from($at['layer']);
            yield from self::settings($layer, $at, $family);
            yield from self::rows($this->outer("$layer->value {$at['id']}"), $layer, $at['id'], $at['label'], $family);
            if ($layer === OptionLayer::Organisation && $server !== null) {
                yield from self::rows($this->outer("server $server->id"), OptionLayer::Server, $server->id, $server->name, $family);
            }
        }
        yield from self::rows($scope->optionValues, OptionLayer::Scope, $scope->id, $scope->name, $family);
        foreach (array_reverse($classes) as $class) {
            yield from self::rows($class->optionValues, OptionLayer::ClientClass, $class->id, $class->name, $family);
        }
        if ($reservation !== null) {
            if ($reservation->name !== '' && $family === Family::V4) {
                yield new StackedValue(
                    OptionTable::HOST_NAME,
                    [$reservation->name],
                    OptionLayer::Reservation,
                    $reservation->id,
                    (string) $reservation->address,
                );
            }
            yield from self::rows(
                $reservation->optionValues,
                OptionLayer::Reservation,
                $reservation->id,
                (string) $reservation->address,
                $family,
            );
        }
    }

    /**
     * @param  array{layer: string, id: string, label: string, set: array<string, list<string>>}  $at
     * @return \Generator<int, StackedValue>
     */
    private static function settings(OptionLayer $layer, array $at, Family $family): \Generator
    {
        foreach ($at['set'] as $key => $values) {
            $code = Inherited::KEYS[$key][$family === Family::V4 ? 1 : 2];
            // An option carries addresses of its own family only; a setting that has none of these says nothing of it.
            $own = $key === 'resolvers'
                ? array_values(array_filter($values, static fn (string $a): bool => Address::tryParse($a)?->family === $family))
                : $values;
            if ($code !== null && ($own !== [] || $values === [])) {
                yield new StackedValue($code, $own, $layer, $at['id'], $at['label'], $family);
            }
        }
    }

    /**
     * @param  iterable<OptionValue>  $rows
     * @return \Generator<int, StackedValue>
     */
    private static function rows(iterable $rows, OptionLayer $layer, string $of, string $name, Family $family): \Generator
    {
        $book = OwnOptions::now();
        foreach ($rows as $row) {
            if ($row->family === $family) {
                $read = $book->own($row->code, $family) === null ? null : $book->words($row->code, $row->values, $family);
                yield new StackedValue($row->code, $row->values, $layer, $of, $name, $family, $read);
            }
        }
    }

    /** @return list<OptionValue> */
    private function outer(string $place): array
    {
        if ($this->outer === null) {
            $this->outer = [];
            foreach (OptionValue::query()->whereIn('layer', ['organisation', 'server', 'site', 'prefix'])->orderBy('code')->get() as $row) {
                $this->outer["$row->layer $row->layer_id"][] = $row;
            }
        }

        return $this->outer[$place] ?? [];
    }
}
