<?php

declare(strict_types=1);

namespace App\Domain\Texts;

use Twig\Attribute\YieldReady;
use Twig\Compiler;
use Twig\Node\Node;

/** A place at which a template is asked whether it goes on. */
#[YieldReady]
final class TickNode extends Node
{
    public function compile(Compiler $compiler): void
    {
        $compiler->write('$this->env->getExtension(\\'.Bounds::class."::class)->ticks->tick();\n");
    }
}
