<?php

declare(strict_types=1);

namespace App\Domain\Texts;

use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;
use Twig\Environment;
use Twig\Error\RuntimeError;
use Twig\Extension\AbstractExtension;
use Twig\Node\Expression\Binary\RangeBinary;
use Twig\Node\ForNode;
use Twig\Node\Node;
use Twig\Node\Nodes;
use Twig\Node\SetNode;
use Twig\NodeVisitor\NodeVisitorInterface;
use Twig\TwigFilter;

/** What templates have beside the language: arithmetic of prefixes, and an end to what they use up. */
final class Bounds extends AbstractExtension implements NodeVisitorInterface
{
    /** Characters to which a text is filled up. */
    private const WIDE = 200;

    public readonly Ticks $ticks;

    public function __construct()
    {
        $this->ticks = new Ticks;
    }

    public function getFilters(): array
    {
        $of = static fn (\Closure $what): \Closure => static fn (mixed $text): string => $what(self::prefix($text));

        return [
            new TwigFilter('network', $of(static fn (Prefix $p): string => (string) $p->first)),
            new TwigFilter('bits', $of(static fn (Prefix $p): string => (string) $p->length)),
            new TwigFilter('mask', $of(static fn (Prefix $p): string => (string) $p->mask())),
            new TwigFilter('wildcard', $of(static fn (Prefix $p): string => (string) $p->wildcard())),
            new TwigFilter('first_usable', $of(static fn (Prefix $p): string => (string) $p->usable()->first)),
            new TwigFilter('last_usable', $of(static fn (Prefix $p): string => (string) $p->usable()->last)),
            new TwigFilter('broadcast', $of(static fn (Prefix $p): string => (string) $p->broadcast())),
            new TwigFilter('reverse_zones', static fn (mixed $text): array => array_map(
                static fn ($z): string => rtrim((string) $z, '.'), array_slice(ReverseName::zones(self::prefix($text)), 0, 256),
            )),
            new TwigFilter('reverse_name', static fn (mixed $text): string => rtrim((string) ReverseName::of(self::address($text)), '.')),
            new TwigFilter('plus', static fn (mixed $text, int $by): string => (string) self::address($text)->plus($by)),
            new TwigFilter('replace', self::replaced(...)),
            new TwigFilter('join', self::joined(...)),
            new TwigFilter('pad', static fn (mixed $text, int $to): string => self::padded($text, $to)),
        ];
    }

    public function getNodeVisitors(): array
    {
        return [$this];
    }

    public function enterNode(Node $node, Environment $env): Node
    {
        return $node;
    }

    public function leaveNode(Node $node, Environment $env): Node
    {
        if ($node instanceof RangeBinary) {
            throw new \Twig\Error\SyntaxError('Ranges of numbers are not there: go through what "list" gives.', $node->getTemplateLine());
        }
        if ($node instanceof ForNode) {
            $node->setNode('body', new Nodes([new TickNode([], [], $node->getTemplateLine()), $node->getNode('body')]));
        }

        return $node instanceof SetNode ? new Nodes([$node, new TickNode([], [], $node->getTemplateLine())]) : $node;
    }

    public function getPriority(): int
    {
        return 0;
    }

    /** @param  array<mixed>  $pairs */
    private static function replaced(mixed $text, array $pairs): string
    {
        $text = is_scalar($text) ? (string) $text : '';
        $pairs = array_map(static fn (mixed $v): string => is_scalar($v) ? (string) $v : '', $pairs);
        unset($pairs['']);
        $longest = max([1, ...array_map(strlen(...), $pairs)]);

        return strlen($text) * $longest > 16 * TemplateEngine::LONGEST
            ? throw new RuntimeError('"replace" would make too long a text.')
            : strtr($text, $pairs);
    }

    /** @param  iterable<mixed>  $values */
    private static function joined(iterable $values, string $glue = '', ?string $and = null): string
    {
        $texts = [];
        foreach ($values as $value) {
            $texts[] = is_scalar($value) ? (string) $value : '';
        }
        if (count($texts) * strlen($glue) > TemplateEngine::LONGEST) {
            throw new RuntimeError('"join" would make too long a text.');
        }
        $last = $and === null || count($texts) < 2 ? null : array_pop($texts);

        return implode($glue, $texts).($last === null ? '' : $and.$last);
    }

    private static function padded(mixed $text, int $to): string
    {
        $text = is_scalar($text) ? (string) $text : '';

        return $text.str_repeat(' ', max(0, min($to, self::WIDE) - mb_strlen($text)));
    }

    private static function prefix(mixed $text): Prefix
    {
        $text = is_scalar($text) ? (string) $text : '';

        return Prefix::tryParse($text) ?? throw new RuntimeError("\"$text\" is no prefix.");
    }

    private static function address(mixed $text): Address
    {
        $text = is_scalar($text) ? explode('/', (string) $text)[0] : '';

        return Address::tryParse($text) ?? throw new RuntimeError("\"$text\" is no address.");
    }
}
