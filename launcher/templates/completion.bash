# Completes the words of ./hpost: commands, acts and their inputs, lists and their filters. Load it with: source <(./hpost completion)
_hpost() {
    local words=("${COMP_WORDS[@]:1:COMP_CWORD}") line="${COMP_LINE:0:COMP_POINT}"
    # A word with "=" or ":" in it is cut into pieces by the shell: it is taken as it was typed.
    read -r -a words <<< "${line#* }"
    [[ "$line" == *' ' ]] && words+=('')
    local last="${words[-1]}" found cut
    [[ ${#words[@]} -eq 1 ]] && found="{words}"
    found="$found"$'\n'"$("${COMP_WORDS[0]}" complete -- "${words[@]}" 2>/dev/null)"
    mapfile -t COMPREPLY < <(compgen -W "$found" -- "$last")
    # What stands before the last "=" or ":" is there already.
    cut="${last%"${last##*[=:]}"}"
    COMPREPLY=("${COMPREPLY[@]#"$cut"}")
    [[ ${#COMPREPLY[@]} -eq 1 && "${COMPREPLY[0]}" == *= ]] && compopt -o nospace 2>/dev/null
}
complete -F _hpost hpost ./hpost
