<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Lease\Options;
use App\Models\OptionDefinition;
use App\Models\OptionValue;
use App\Models\Person;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\Option\OwnShape;
use HarborPost\Core\Net\Family;

/** A code that no standard defines gets a name and a shape, so that its values are typed and read; for one that is defined, others. */
final readonly class DefineOption extends Act
{
    private const SHAPES = [
        'address', 'addresses', 'text', 'uint8', 'uint16', 'uint32', 'uint16s', 'names', 'suboptions', 'bytes',
    ];

    public function __construct(
        #[Field(Kind::Number, 'Code', most: 65535, least: 1)]
        public int $code,
        #[Field(Kind::Line, 'Name', most: 60)]
        public string $name,
        #[Field(Kind::Choice, 'Holds', choices: self::SHAPES)]
        public string $shape,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Choice, 'Family', choices: ['4', '6'])]
        public string $family = '4',
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
    ) {
    }

    public function title(): string
    {
        return "Define option $this->code";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease.options');
    }

    public function apply(Ledger $ledger): void
    {
        $family = $this->family === '6' ? Family::V6 : Family::V4;
        Guard::own("definition:$family->value:$this->code");
        $most = OptionTable::most($family);
        if ($this->code > $most) {
            $ledger->refuse('bad-option', "An option code is from 1 to $most", field: 'code');
        }
        if (OptionTable::isRegistered($this->code, $family) || Options::isNotByHand($this->code, $family)) {
            $defined = OptionTable::definition($this->code, $family);
            $ledger->refuse(
                'option-is-registered',
                "Option $this->code is $defined->name",
                'Clients read it as its standard has it. IPv4 leaves the codes from 224 on to each organisation.',
                $defined->standard,
                'code',
            );
        }
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'A name is missing', field: 'name');
        }
        if ($family === Family::V4 && $this->code < 224) {
            $ledger->warn(
                'code-may-be-given',
                "Code $this->code is not defined yet, and may be given to something else",
                'Codes from 224 to 254 are for private use.',
                'RFC 3942 §4',
                'code',
            );
        }
        $row = OptionDefinition::query()->where('family', $family)->where('code', $this->code)->first()
            ?? new OptionDefinition(['id' => $this->id, 'family' => $family, 'code' => $this->code]);
        $row->fill(['name' => trim($this->name), 'shape' => OwnShape::from($this->shape), 'description' => $this->description]);
        $row->save();
        $set = OptionValue::query()->where('family', $family)->where('code', $this->code)->count();
        $set === 0 ?: $ledger->later(($set === 1 ? '1 value of it is' : "$set values of it are")
            .' read so from now on; the bytes that are sent stay as they are');
    }
}
