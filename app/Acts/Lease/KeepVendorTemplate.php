<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Person;
use App\Models\VendorTemplate;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\Option\SubDefinition;
use HarborPost\Core\Net\Family;

/** What one maker's devices read inside option 43, 125 or, of IPv6, 17 is described: its sub-options are typed and read by name. */
final readonly class KeepVendorTemplate extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 60)]
        public string $name,
        #[Field(Kind::Text, 'Sub-options', 'A line each, as "241 controllers: addresses"', most: 8000)]
        public string $subs,
        #[Field(Kind::Line, 'Vendor class', 'What option 60 of its clients starts with: carried by option 43', most: 255, blank: true)]
        public string $vendorClass = '',
        #[Field(Kind::Line, 'Enterprise number', 'Of the maker: carried by option 125, or 17 of IPv6', most: 10, blank: true)]
        public string $enterprise = '',
        #[Field(Kind::Choice, 'Family', choices: ['4', '6'])]
        public string $family = '4',
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Id, 'Template', 'The one that is changed; none makes a new one', of: VendorTemplate::class)]
        public string $template = '',
    ) {
    }

    public function title(): string
    {
        return "Describe the sub-options of $this->name";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease.options').'#templates';
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own('vendor-templates');
        $name = trim($this->name);
        $name !== '' ?: $ledger->refuse('no-name', 'A name is missing', field: 'name');
        $row = $this->template === ''
            ? new VendorTemplate(['id' => $this->id])
            : (VendorTemplate::query()->find($this->template) ?? $ledger->refuse('gone', 'The template is not there any more'));
        $twin = VendorTemplate::query()->where('name', $name)->whereKeyNot($row->id)->first();
        $twin === null ?: $ledger->refuse('name-taken', "There is a template $twin->name", field: 'name', link: $this->landing());
        $family = $this->family === '6' ? Family::V6 : Family::V4;
        try {
            $subs = SubDefinition::read($this->subs, OptionTable::most($family));
        } catch (BadOption $e) {
            $ledger->refuse('bad-sub-options', $e->getMessage(), field: 'subs');
        }
        $row->fill([
            'name' => $name, 'family' => $family, 'vendor_class' => trim($this->vendorClass),
            'enterprise' => $this->number($ledger, $family),
            'subs' => implode("\n", array_map(static fn (SubDefinition $s): string => $s->text(), $subs)),
        ]);
        $this->alone($ledger, $row);
        $row->save();
        $ledger->passed('reads-only', 'What is sent already stays as it is: a template is how it is typed and read');
    }

    /** Of two for the same devices none would be the one that is meant. Letters of a class count as they are. */
    private function alone(Ledger $ledger, VendorTemplate $row): void
    {
        $same = VendorTemplate::query()->whereKeyNot($row->id)->where('family', $row->family)->where('enterprise', $row->enterprise)
            ->where('vendor_class', $row->vendor_class)->get()
            ->first(static fn (VendorTemplate $t): bool => $t->vendor_class === $row->vendor_class);
        if ($same !== null) {
            $ledger->refuse(
                'devices-described', "$same->name describes what these devices read", 'Change that one.',
                field: $row->enterprise === null ? 'vendorClass' : 'enterprise', link: $this->landing(),
            );
        }
    }

    /** By one of them a device is known, and the option that carries it. */
    private function number(Ledger $ledger, Family $family): ?int
    {
        $class = trim($this->vendorClass);
        $number = trim($this->enterprise);
        if (($class === '') === ($number === '') || $family === Family::V6 && $number === '') {
            $ledger->refuse(
                'whose-devices',
                $family === Family::V6
                    ? 'In IPv6 the enterprise number tells whose devices read it'
                    : 'Say the vendor class, or the enterprise number',
                'Option 43 goes by the vendor class that clients send in option 60, option 125 by the number of the maker.',
                $family === Family::V6 ? 'RFC 8415 §21.17' : 'RFC 2132 §8.4',
                $class === '' ? 'vendorClass' : 'enterprise',
            );
        }
        if ($number !== '' && (! ctype_digit($number) || (int) $number < 1 || (int) $number > 0xFFFFFFFF)) {
            $ledger->refuse(
                'bad-enterprise', "\"$number\" is no enterprise number", 'One from 1 to 4294967295.', 'RFC 3925 §4', 'enterprise',
            );
        }

        return $number === '' ? null : (int) $number;
    }
}
