<?php

declare(strict_types=1);

namespace App\View;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Dhcp\Option\Definition;
use HarborPost\Core\Dhcp\Option\OptionBook;
use HarborPost\Core\Dhcp\Option\OptionLayer;
use HarborPost\Core\Dhcp\Option\OptionStack;
use HarborPost\Core\Dhcp\Option\StackedValue;
use Illuminate\Support\Str;

/** The options of a client drawn by layer: a line goes down from the client until a layer answers; what lies below is passed over. */
final readonly class Sounding
{
    /** From the client down. */
    public const LAYERS = [
        OptionLayer::Reservation, OptionLayer::ClientClass, OptionLayer::Scope, OptionLayer::Prefix, OptionLayer::Site, OptionLayer::Server,
        OptionLayer::Organisation,
    ];

    private const BYTES = 40;

    /** @param  list<array{layer: OptionLayer, state: string, says: string}>  $cells  state: pass, hit, under or blank */
    private function __construct(
        public int $code,
        public string $name,
        public StackedValue $value,
        public string $bytes,
        public string $standard,
        public array $cells,
    ) {
    }

    /**
     * @param  list<int>  $asked  what a client asks for by code; none: all there are
     * @return list<self> in the order of codes
     */
    public static function of(OptionStack $stack, OptionBook $book, array $asked = []): array
    {
        $rows = [];
        foreach ($stack->nearest() as $code => $value) {
            if ($asked !== [] && ! in_array($code, $asked, true)) {
                continue;
            }
            $rows[] = self::row($book->definition($code, $value->family), $code, $value, $stack->hidden($code));
        }

        return $rows;
    }

    /** @param  list<StackedValue>  $hidden */
    private static function row(Definition $definition, int $code, StackedValue $value, array $hidden): self
    {
        $below = [];
        foreach ($hidden as $under) {
            $below[$under->layer->value][] = "$under->name: {$under->words()}";
        }
        $cells = [];
        $answered = false;
        foreach (self::LAYERS as $layer) {
            $hit = $layer === $value->layer;
            $says = implode('; ', $below[$layer->value] ?? []);
            $cells[] = match (true) {
                $hit => [
                    'layer' => $layer,
                    'state' => 'hit',
                    'says' => "in force, from $value->name".($says === '' ? '' : "; hides $says"),
                ],
                ! $answered => ['layer' => $layer, 'state' => 'pass', 'says' => ''],
                $says !== '' => ['layer' => $layer, 'state' => 'under', 'says' => "hidden, $says"],
                default => ['layer' => $layer, 'state' => '', 'says' => ''],
            };
            $answered = $answered || $hit;
        }

        return new self(
            $code,
            $definition->name,
            $value,
            Str::limit(Hex::spaced($value->payload() ?? ''), self::BYTES),
            $definition->standard,
            $cells,
        );
    }
}
