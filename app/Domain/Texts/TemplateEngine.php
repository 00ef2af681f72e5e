<?php

declare(strict_types=1);

namespace App\Domain\Texts;

use Twig\Environment;
use Twig\Error\Error;
use Twig\Extension\SandboxExtension;
use Twig\Loader\ArrayLoader;
use Twig\Sandbox\SecurityPolicy;
use Twig\TwigFunction;

/**
 * The language of templates: Twig in its sandbox. It sees values and the functions that it is given, no object, no file, no template but
 * itself, and it ends.
 */
final class TemplateEngine
{
    private const NAME = 'template';

    private const TAGS = ['if', 'for', 'set', 'apply', 'with'];

    private const FILTERS = [
        'abs', 'capitalize', 'column', 'default', 'first', 'join', 'json_encode', 'keys', 'last', 'length', 'lower', 'map', 'filter',
        'merge', 'replace', 'reverse', 'round', 'slice', 'sort', 'split', 'title', 'trim', 'upper', 'reduce', 'date',
        'network', 'bits', 'mask', 'wildcard', 'first_usable', 'last_usable', 'broadcast', 'reverse_zones', 'reverse_name', 'plus', 'pad',
    ];

    private const FUNCTIONS = ['list', 'one', 'max', 'min'];

    /** Characters of a text that is made. */
    public const LONGEST = 2_000_000;

    /** @return ?string what is wrong with a template, with its line; null when nothing is */
    public static function fault(string $body): ?string
    {
        $twig = self::twig($body, static fn (): array => [], static fn (): ?array => null);
        try {
            $twig->load(self::NAME);
            $twig->render(self::NAME, ['it' => null]);
        } catch (Error $e) {
            // What a template makes of an object shows with one; here it is read alone.
            return self::isOfReading($e) ? self::words($e) : null;
        } catch (\Throwable) {
            return null;
        }

        return null;
    }

    /**
     * @param  array<string, mixed>  $values
     * @param  \Closure(string, array<mixed>): list<array<string, mixed>>  $list
     * @param  \Closure(string, ?string): ?array<string, mixed>  $one
     *
     * @throws TextFault with the line
     */
    public static function render(string $body, array $values, \Closure $list, \Closure $one): string
    {
        try {
            $text = '';
            foreach (self::twig($body, $list, $one)->load(self::NAME)->stream($values) as $part) {
                $text .= is_scalar($part) || $part instanceof \Stringable ? (string) $part : '';
                if (strlen($text) > self::LONGEST) {
                    throw new TextFault('The text gets longer than '.number_format(self::LONGEST).' characters.');
                }
            }

            return $text;
        } catch (Error $e) {
            $cause = $e->getPrevious();
            throw $cause instanceof TextFault ? $cause : new TextFault(self::words($e));
        } catch (\TypeError|\ValueError|\DivisionByZeroError $e) {
            throw new TextFault('It cannot be computed: '.$e->getMessage().'.');
        }
    }

    private static function twig(string $body, \Closure $list, \Closure $one): Environment
    {
        $twig = new Environment(new ArrayLoader([self::NAME => $body]), [
            'autoescape' => false, 'cache' => false, 'strict_variables' => true, 'use_yield' => true,
        ]);
        $policy = new SecurityPolicy(self::TAGS, self::FILTERS, [], [], self::FUNCTIONS);
        $twig->addExtension(new SandboxExtension($policy, true));
        $twig->addExtension(new Bounds);
        $twig->addFunction(new TwigFunction('list', static fn (string $of, array $where = []): array => $list($of, $where)));
        $twig->addFunction(new TwigFunction(
            'one', static fn (string $of, mixed $known): ?array => $one($of, is_scalar($known) ? (string) $known : null),
        ));

        return $twig;
    }

    private static function isOfReading(Error $e): bool
    {
        return $e instanceof \Twig\Error\SyntaxError || $e instanceof \Twig\Sandbox\SecurityError;
    }

    private static function words(Error $e): string
    {
        $line = $e->getTemplateLine();

        return ($line > 0 ? "line $line: " : '').rtrim($e->getRawMessage(), '.').'.';
    }
}
