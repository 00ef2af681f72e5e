<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\OptionPlace;
use App\Domain\Lease\Options;
use App\Models\ClientClass;
use App\Models\Person;
use App\Models\VendorTemplate;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionLayer;
use HarborPost\Core\Net\Family;

/** The sub-options of one maker are set in a layer by their names; with all of them blank the option is given back to outer layers. */
final readonly class SetVendorOptions extends Act
{
    /** @param  array<int|string, string>  $subs  code → values */
    public function __construct(
        #[Field(Kind::Id, 'Template', of: VendorTemplate::class)]
        public string $template,
        #[Field(Kind::Choice, 'Layer', choices: ['class', 'reservation', 'scope', 'organisation', 'server', 'site'])]
        public string $layer = 'class',
        #[Field(Kind::Id, 'Object of the layer', 'A class, reservation, scope, server or site; none for the organisation')]
        public string $of = '',
        #[Field(Kind::Map, 'Sub-options', most: 1000)]
        public array $subs = [],
    ) {
    }

    public function title(): string
    {
        return 'Set what '.(VendorTemplate::query()->find($this->template)->name ?? 'devices').' reads';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return match ($this->layer) {
            'organisation' => at('lease.options'),
            'scope' => at('lease.scope', $this->of),
            default => at('lease.options.of', $this->layer, $this->of),
        };
    }

    public function apply(Ledger $ledger): void
    {
        $row = VendorTemplate::query()->find($this->template) ?? $ledger->refuse('gone', 'The template is not there any more');
        $template = $row->template();
        $layer = OptionLayer::tryFrom($this->layer) ?? OptionLayer::ClientClass;
        $place = OptionPlace::get($ledger, $layer, $this->of);
        if ($place->scope !== null && $place->scope->family() !== $template->family) {
            $ledger->refuse(
                'other-family', "$template->name is of IPv{$template->family->value}, {$place->name} is not", field: 'template',
            );
        }
        try {
            $values = $template->values($this->subs);
        } catch (BadOption $e) {
            $ledger->refuse('bad-sub-options', $e->getMessage(), field: 'subs');
        }
        $class = $layer === OptionLayer::ClientClass ? ClientClass::query()->find($this->of) : null;
        $byClass = $template->enterprise === null && $template->family === Family::V4;
        if ($class !== null && $byClass && ! $template->isFor($class->vendorClass())) {
            $ledger->warn(
                'other-vendor-class',
                "Clients of $class->name need not be of the vendor class {$template->vendorClass}…",
                'Devices of another maker may misread it. Add the row "vendor class starts with" to the class.',
                'RFC 2132 §8.4',
                'template',
            );
        }
        Options::write($ledger, $place, $template->code(), $values, false, $template->family);
    }
}
