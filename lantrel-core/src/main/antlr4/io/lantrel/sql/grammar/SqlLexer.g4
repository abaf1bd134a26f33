/*
 * The words and signs of SQL (ISO/IEC 9075-2, clause 5.2, <token> and <separator>), as engines
 * write them. Comments and spaces go to the hidden channel: repairs are edits of the user's text
 * and must know where they are.
 */
lexer grammar SqlLexer;

options { caseInsensitive = true; }

ALL : 'ALL';
AND : 'AND';
AS : 'AS';
ASC : 'ASC';
BETWEEN : 'BETWEEN';
BY : 'BY';
CASE : 'CASE';
CAST : 'CAST';
CHECK : 'CHECK';
CONSTRAINT : 'CONSTRAINT';
CREATE : 'CREATE';
CROSS : 'CROSS';
DATE : 'DATE';
DEFAULT : 'DEFAULT';
DESC : 'DESC';
DISTINCT : 'DISTINCT';
ELSE : 'ELSE';
END : 'END';
ESCAPE : 'ESCAPE';
EXISTS : 'EXISTS';
EXTRACT : 'EXTRACT';
FALSE : 'FALSE';
FETCH : 'FETCH';
FILTER : 'FILTER';
FIRST : 'FIRST';
FOREIGN : 'FOREIGN';
FROM : 'FROM';
FULL : 'FULL';
GROUP : 'GROUP';
HAVING : 'HAVING';
IF : 'IF';
ILIKE : 'ILIKE';
IN : 'IN';
INNER : 'INNER';
INTERVAL : 'INTERVAL';
IS : 'IS';
JOIN : 'JOIN';
KEY : 'KEY';
LAST : 'LAST';
LEFT : 'LEFT';
LIKE : 'LIKE';
LIMIT : 'LIMIT';
NATURAL : 'NATURAL';
NEXT : 'NEXT';
NOT : 'NOT';
NULL : 'NULL';
NULLS : 'NULLS';
OFFSET : 'OFFSET';
ON : 'ON';
ONLY : 'ONLY';
OR : 'OR';
ORDER : 'ORDER';
OUTER : 'OUTER';
PRIMARY : 'PRIMARY';
REFERENCES : 'REFERENCES';
RIGHT : 'RIGHT';
ROW : 'ROW';
ROWS : 'ROWS';
SELECT : 'SELECT';
TABLE : 'TABLE';
THEN : 'THEN';
TIME : 'TIME';
TIMESTAMP : 'TIMESTAMP';
TRUE : 'TRUE';
UNIQUE : 'UNIQUE';
UNKNOWN : 'UNKNOWN';
USING : 'USING';
WHEN : 'WHEN';
WHERE : 'WHERE';

// Words that begin something beyond this grammar. They are reserved, so that such a statement is
// recognised as one that was not read, and never half-read under a wrong meaning.
EXCEPT : 'EXCEPT';
INTERSECT : 'INTERSECT';
LATERAL : 'LATERAL';
UNION : 'UNION';
VALUES : 'VALUES';
WINDOW : 'WINDOW';
WITH : 'WITH';

COMMA : ',';
DOT : '.';
SEMICOLON : ';';
LEFT_PAREN : '(';
RIGHT_PAREN : ')';
STAR : '*';
SLASH : '/';
PERCENT : '%';
PLUS : '+';
MINUS : '-';
CONCAT : '||';
EQUAL : '=';
NOT_EQUAL : '<>' | '!=';
LESS_OR_EQUAL : '<=';
GREATER_OR_EQUAL : '>=';
LESS : '<';
GREATER : '>';
TYPE_MARK : '::';

NUMBER
    : DIGIT+ ( '.' DIGIT* )? EXPONENT?
    | '.' DIGIT+ EXPONENT?
    ;

STRING : '\'' ( ~'\'' | '\'\'' )* '\'';

QUOTED_NAME : '"' ( ~'"' | '""' )+ '"';

NAME : [\p{L}_] [\p{L}\p{M}\p{N}_$]*;

LINE_COMMENT : '--' ~[\r\n]* -> channel(HIDDEN);
// Comments nest (ISO/IEC 9075-2, 5.2, <bracketed comment contents>).
BLOCK_COMMENT
    : '/*'
      ( BLOCK_COMMENT
      | ~[/*]
      | '/' { _input.LA(1) != '*' }?
      | '*' { _input.LA(1) != '/' }?
      )*
      '*/' -> channel(HIDDEN)
    ;
SPACE : [\p{White_Space}\uFEFF]+ -> channel(HIDDEN);

// What follows an opening quote that is never closed is one token, so that the place of the fault
// is the quote and not whatever stands at the end of the file. A comment that is closed is longer
// than its opening, and so it wins over OPEN_COMMENT.
OPEN_STRING : '\'' ( ~'\'' | '\'\'' )*;
OPEN_QUOTED_NAME : '"' ( ~'"' | '""' )*;
OPEN_COMMENT : '/*';

OTHER : . ;

fragment DIGIT : [0-9];
fragment EXPONENT : 'E' [+-]? DIGIT+;
