<?php

declare(strict_types=1);

namespace App\Domain\Lease;

use App\Acts\Engine\Ledger;
use App\Models\ClientClass;
use App\Models\Model;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Site;
use HarborPost\Core\Dhcp\Option\OptionLayer;
use HarborPost\Core\Net\Prefix as Net;

/** Where an option is written down: a layer and the object of it. */
final readonly class OptionPlace
{
    private function __construct(
        public OptionLayer $layer,
        public string $id,
        public string $name,
        /** the scope that it speaks of, where it speaks of one */
        public ?Scope $scope = null,
    ) {
    }

    public static function ofScope(Scope $scope): self
    {
        return new self(OptionLayer::Scope, $scope->id, $scope->name, $scope);
    }

    public static function find(OptionLayer $layer, string $id): ?self
    {
        $row = match ($layer) {
            OptionLayer::Organisation, OptionLayer::Prefix => null,
            OptionLayer::Server => Server::query()->where('kind', ServerKind::Dhcp)->find($id),
            OptionLayer::Site => Site::query()->find($id),
            OptionLayer::Scope => Scope::query()->with('prefix')->find($id),
            OptionLayer::ClientClass => ClientClass::query()->find($id),
            OptionLayer::Reservation => Reservation::query()->with('scope.prefix')->find($id),
        };

        return match (true) {
            $layer === OptionLayer::Organisation => new self($layer, '', 'Organisation'),
            $row === null => null,
            default => self::ofRow($layer, $row),
        };
    }

    public static function get(Ledger $ledger, OptionLayer $layer, string $id): self
    {
        return self::find($layer, $id) ?? $ledger->refuse('gone', "The {$layer->label()} is not there any more");
    }

    public function words(): string
    {
        return match ($this->layer) {
            OptionLayer::Organisation => 'the organisation',
            OptionLayer::Reservation => "the reservation $this->name",
            default => "the {$this->layer->label()} $this->name",
        };
    }

    public function net(): ?Net
    {
        return $this->scope?->prefix->prefix();
    }

    private static function ofRow(OptionLayer $layer, Model $row): self
    {
        return match (true) {
            $row instanceof Scope => self::ofScope($row),
            $row instanceof Reservation => new self($layer, $row->id, $row->line(), $row->scope),
            default => new self($layer, $row->id, is_string($row->getAttribute('name')) ? $row->getAttribute('name') : ''),
        };
    }
}
