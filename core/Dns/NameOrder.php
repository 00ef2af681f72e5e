<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns;

/**
 * Sort keys and texts of many names, the same as Name::sortKey() and the lower-case text give, remembering those of the names
 * above: in a large zone most names share their parent, and only the first label is worked on. Names come as their keys, in
 * lower-case wire form.
 */
final class NameOrder
{
    private const REMEMBERED = 20000;

    /** @var array<string, string> wire form of a name above → its sort key */
    private array $keys = [];

    /** @var array<string, string> wire form of a name above → its text, blank for the root */
    private array $texts = [];

    /** @param  string  $name  as Name::key() gives it */
    public function sortKey(string $name): string
    {
        $length = ord($name[0]);
        $label = substr($name, 1, $length);
        $above = substr($name, $length + 1);
        if ($length === 0 || strcspn($label, "\0\1") !== $length) {
            return Name::ofKey($name)->sortKey();
        }

        return ($this->keys[$above] ?? $this->rememberKey($above)).$label."\0";
    }

    /**
     * Absolute and in lower case.
     *
     * @param  string  $name  as Name::key() gives it
     */
    public function text(string $name): string
    {
        $length = ord($name[0]);
        $label = substr($name, 1, $length);
        if ($length === 0 || strspn($label, Name::ORDINARY) !== $length) {
            return (string) Name::ofKey($name);
        }
        $above = substr($name, $length + 1);

        return $label.'.'.($this->texts[$above] ?? $this->rememberText($above));
    }

    private function rememberKey(string $above): string
    {
        if (count($this->keys) >= self::REMEMBERED) {
            $this->keys = [];
        }

        return $this->keys[$above] = Name::ofKey($above)->sortKey();
    }

    private function rememberText(string $above): string
    {
        if (count($this->texts) >= self::REMEMBERED) {
            $this->texts = [];
        }

        return $this->texts[$above] = $above === "\0" ? '' : (string) Name::ofKey($above);
    }
}
