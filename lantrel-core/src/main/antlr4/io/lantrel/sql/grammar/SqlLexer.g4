/*
 * The words and signs of SQL (ISO/IEC 9075-2, clause 5.2, <token> and <separator>), as engines
 * write them. Comments and spaces go to the hidden channel: repairs are edits of the user's text
 * and must know where they are. Where engines read the same characters differently, the dialect
 * decides (LexerOfDialect).
 */
lexer grammar SqlLexer;

options { caseInsensitive = true; superClass = LexerOfDialect; }

ABSENT : 'ABSENT';
ALL : 'ALL';
AND : 'AND';
AGAINST : 'AGAINST';
ANTI : 'ANTI';
ANY : 'ANY';
ARRAY : 'ARRAY';
AS : 'AS';
ASC : 'ASC';
ASOF : 'ASOF';
ASYMMETRIC : 'ASYMMETRIC';
AT : 'AT';
BETWEEN : 'BETWEEN';
BINARY : 'BINARY';
BOTH : 'BOTH';
BREADTH : 'BREADTH';
BY : 'BY';
CASE : 'CASE';
CAST : 'CAST';
CHARACTER : 'CHARACTER';
COLLATE : 'COLLATE';
COLLATION : 'COLLATION';
COLUMNS : 'COLUMNS';
CONDITION : 'CONDITION';
CORRESPONDING : 'CORRESPONDING';
CROSS : 'CROSS';
CUBE : 'CUBE';
CURRENT : 'CURRENT';
CYCLE : 'CYCLE';
DATE : 'DATE';
DAY : 'DAY';
DEFAULT : 'DEFAULT';
DEPTH : 'DEPTH';
DESC : 'DESC';
DISTINCT : 'DISTINCT';
DIV : 'DIV';
DOUBLE : 'DOUBLE';
ELSE : 'ELSE';
END : 'END';
ERROR : 'ERROR';
ESCAPE : 'ESCAPE';
EXAMINED : 'EXAMINED';
EXCEPT : 'EXCEPT';
EXCLUDE : 'EXCLUDE';
EXISTS : 'EXISTS';
EXTRACT : 'EXTRACT';
FALSE : 'FALSE';
FETCH : 'FETCH';
FILTER : 'FILTER';
FIRST : 'FIRST';
FOLLOWING : 'FOLLOWING';
FOR : 'FOR';
FORCE : 'FORCE';
FROM : 'FROM';
FORMAT : 'FORMAT';
FULL : 'FULL';
GLOB : 'GLOB';
GROUP : 'GROUP';
GROUPING : 'GROUPING';
GROUPS : 'GROUPS';
HAVING : 'HAVING';
HIGH_PRIORITY : 'HIGH_PRIORITY';
HOUR : 'HOUR';
IF : 'IF';
IGNORE : 'IGNORE';
ILIKE : 'ILIKE';
IN : 'IN';
INDEX : 'INDEX';
INDEXED : 'INDEXED';
INNER : 'INNER';
INTERSECT : 'INTERSECT';
INTERVAL : 'INTERVAL';
INTO : 'INTO';
IS : 'IS';
ISNULL : 'ISNULL';
JOIN : 'JOIN';
JSON : 'JSON';
KEEP : 'KEEP';
KEY : 'KEY';
KEYS : 'KEYS';
LAMBDA : 'LAMBDA';
LAST : 'LAST';
LATERAL : 'LATERAL';
LEADING : 'LEADING';
LEFT : 'LEFT';
LIKE : 'LIKE';
LIMIT : 'LIMIT';
LOCAL : 'LOCAL';
LOCK : 'LOCK';
LOCKED : 'LOCKED';
MATCH : 'MATCH';
MATERIALIZED : 'MATERIALIZED';
MINUS_WORD : 'MINUS';
MINUTE : 'MINUTE';
MOD : 'MOD';
MODE : 'MODE';
MONTH : 'MONTH';
MULTISET : 'MULTISET';
NAME_WORD : 'NAME';
NATURAL : 'NATURAL';
NEXT : 'NEXT';
NO : 'NO';
NORMALIZED : 'NORMALIZED';
NOT : 'NOT';
NOTNULL : 'NOTNULL';
NOWAIT : 'NOWAIT';
NULL : 'NULL';
NULLS : 'NULLS';
OF : 'OF';
OFFSET : 'OFFSET';
ON : 'ON';
ONLY : 'ONLY';
OPERATOR : 'OPERATOR';
OR : 'OR';
ORDER : 'ORDER';
ORDINALITY : 'ORDINALITY';
OTHERS : 'OTHERS';
OUTER : 'OUTER';
OVER : 'OVER';
OVERLAPS : 'OVERLAPS';
OVERLAY : 'OVERLAY';
PARTITION : 'PARTITION';
PASSING : 'PASSING';
PERCENT : 'PERCENT';
PIVOT : 'PIVOT';
PLACING : 'PLACING';
POSITION : 'POSITION';
POSITIONAL : 'POSITIONAL';
PRECEDING : 'PRECEDING';
PRECISION : 'PRECISION';
QUALIFY : 'QUALIFY';
RANGE : 'RANGE';
READ : 'READ';
RECURSIVE : 'RECURSIVE';
REGEXP : 'REGEXP';
RENAME : 'RENAME';
REPLACE : 'REPLACE';
RESPECT : 'RESPECT';
RIGHT : 'RIGHT';
RETURNING : 'RETURNING';
RLIKE : 'RLIKE';
ROLLUP : 'ROLLUP';
ROW : 'ROW';
ROWS : 'ROWS';
SAMPLE : 'SAMPLE';
SEARCH : 'SEARCH';
SECOND : 'SECOND';
SELECT : 'SELECT';
SEMI : 'SEMI';
SEPARATOR : 'SEPARATOR';
SET : 'SET';
SETS : 'SETS';
SHARE : 'SHARE';
SIMILAR : 'SIMILAR';
SKIP_WORD : 'SKIP';
SOME : 'SOME';
SOUNDS : 'SOUNDS';
SQL_BIG_RESULT : 'SQL_BIG_RESULT';
SQL_BUFFER_RESULT : 'SQL_BUFFER_RESULT';
SQL_CACHE : 'SQL_CACHE';
SQL_CALC_FOUND_ROWS : 'SQL_CALC_FOUND_ROWS';
SQL_NO_CACHE : 'SQL_NO_CACHE';
SQL_SMALL_RESULT : 'SQL_SMALL_RESULT';
STRAIGHT_JOIN : 'STRAIGHT_JOIN';
SUBSTR : 'SUBSTR';
SUBSTRING : 'SUBSTRING';
SYMMETRIC : 'SYMMETRIC';
TABLE : 'TABLE';
TABLESAMPLE : 'TABLESAMPLE';
THEN : 'THEN';
TIES : 'TIES';
TIME : 'TIME';
TIMESTAMP : 'TIMESTAMP';
TO : 'TO';
TOP : 'TOP';
TRAILING : 'TRAILING';
TRIM : 'TRIM';
TRUE : 'TRUE';
TRY_CAST : 'TRY_CAST';
UNION : 'UNION';
UNIQUE : 'UNIQUE';
UNKNOWN : 'UNKNOWN';
UNPIVOT : 'UNPIVOT';
UPDATE : 'UPDATE';
USE : 'USE';
USING : 'USING';
VALUE : 'VALUE';
VALUES : 'VALUES';
VARIADIC : 'VARIADIC';
VARYING : 'VARYING';
WAIT : 'WAIT';
WHEN : 'WHEN';
WHERE : 'WHERE';
WINDOW : 'WINDOW';
WITH : 'WITH';
WITHIN : 'WITHIN';
WITHOUT : 'WITHOUT';
XMLATTRIBUTES : 'XMLATTRIBUTES';
XMLELEMENT : 'XMLELEMENT';
XMLEXISTS : 'XMLEXISTS';
XMLFOREST : 'XMLFOREST';
XMLNAMESPACES : 'XMLNAMESPACES';
XMLPARSE : 'XMLPARSE';
XMLPI : 'XMLPI';
XMLROOT : 'XMLROOT';
XMLSERIALIZE : 'XMLSERIALIZE';
XMLTABLE : 'XMLTABLE';
XOR : 'XOR';
YEAR : 'YEAR';
ZONE : 'ZONE';

COMMA : ',';
DOT : '.';
SEMICOLON : ';';
LEFT_PAREN : '(';
RIGHT_PAREN : ')';
LEFT_BRACKET : '[';
RIGHT_BRACKET : ']';
LEFT_BRACE : '{';
RIGHT_BRACE : '}';
STAR : '*';
SLASH : '/';
PERCENT_SIGN : '%';
PLUS : '+';
MINUS : '-';
CARET : '^' | '**';
WHOLE_SLASH : '//' { wholeSlash() }?;
CONCAT : '||';
OUTER_MARK : '(' [ \t]* '+' [ \t]* ')';
EQUAL : '=' | '==';
NOT_EQUAL : '<>' | '!=' | '^=';
LESS_OR_EQUAL : '<=';
GREATER_OR_EQUAL : '>=';
LESS : '<';
GREATER : '>';
NULL_SAFE_EQUAL : '<=>';
TYPE_MARK : '::';
COLON : ':';
ASSIGN : ':=' | '=>';
AND_SIGN : '&&';
NOT_SIGN : '!';
TILDE : '~';
ARROW : '->';

// Signs that some engine knows and that mean nothing to Lantrel but their operands.
OPERATOR_SIGN
    : ( '#>' | '#>>' | '#-' | '#' | '##' | '<#>' | '@#' ) { !hashComments() }?
    | '->>' | '@' | '@>' | '<@' | '@@' | '@@@' | '@?' | '@-@' | '<->'
    | '~~' | '!~~' | '~~*' | '!~~*' | '~*' | '!~' | '!~*' | '~~~' | '<<' | '>>' | '&' | '&<' | '&>' | '<<|' | '|>>'
    | '&<|' | '|&>' | '-|-' | '^@' | '~=' | '~<=~' | '~>=~' | '~<~' | '~>~' | '|' | '|/' | '||/' | '!!'
    | '<^' | '>^' | '<<=' | '>>=' | '@|' | '?&' | '|||' | '=@=' | '*=' | '*<>'
    | '*<' | '*>' | '*<=' | '*>=' | '?|' { _input.LA(1) != '|' }?
    | [-+*/<>=~!@#%^&|`] [-+*/<>=~!@#%^&|`]+ { isOperatorOfAnySigns() }?
    ;

NUMBER
    : DIGITS ( '.' DIGITS? )? EXPONENT?
    | '.' DIGITS EXPONENT?
    | '0X' [0-9A-F_]+
    | '0O' [0-7_]+
    | '0B' [01_]+
    ;

STRING : PREFIX? '\'' SINGLE_QUOTED* '\'';

// MariaDB's texts in double quotes.
DOUBLE_QUOTED_TEXT : '"' { doubleQuotedTexts() }? ( ~["\\] | '""' | '\\' . )* '"';

// E'…' of PostgreSQL and DuckDB always has escapes.
ESCAPED_STRING : 'E\'' { escapedTexts() }? ( ~['\\] | '\'\'' | '\\' . )* '\'';

// $$ … $$ and $tag$ … $tag$: the rest is taken up to the same mark. Where it never comes, the text is open.
DOLLAR_STRING
    : '$' ( LETTER NAME_PART* )? '$' { dollarQuotes() }? { if (!readToMark()) { setType(OPEN_STRING); } }
    ;

QUOTED_NAME
    : 'U&"' { unicodeTexts() }? ( ~'"' | '""' )+ '"'
    | '"' { !doubleQuotedTexts() }? ( ~'"' | '""' )+ '"'
    | '`' ( ~'`' | '``' )+ '`'
    | '[' { bracketNames() }? ~[\]\r\n]+ ']'
    ;

PARAMETER
    : '?' DIGIT*
    | '$' NAME_PART+
    ;

VARIABLE : '@' '@'? ( ( LETTER | '$' ) ( NAME_PART | [$.] )* | '`' ~'`'+ '`' ) { variables() }?;

NAME : LETTER ( NAME_PART | '$' )*;

// Where a comment begins and ends is the product's to say: 5--3 is 8 in MariaDB, // is a comment in H2.
LINE_COMMENT : '--' { dashComment() }? REST_OF_LINE* -> channel(HIDDEN);
HASH_COMMENT : '#' { hashComments() }? REST_OF_LINE* -> channel(HIDDEN);
SLASH_COMMENT : '//' { slashComments() }? REST_OF_LINE* -> channel(HIDDEN);
// Comments nest (ISO/IEC 9075-2, 5.2, <bracketed comment contents>), but not in every engine. What
// MariaDB runs although it looks like a comment is none: it is left to OPEN_COMMENT.
BLOCK_COMMENT
    : '/*' { !isRun() }? { if (readComment()) { setChannel(HIDDEN); } else { setType(OPEN_COMMENT); } }
    ;
SPACE : [\p{White_Space}\uFEFF]+ -> channel(HIDDEN);

// What follows an opening quote that is never closed is one token, so that the place of the fault
// is the quote and not whatever stands at the end of the file. A comment that is closed is longer
// than its opening, and so it wins over OPEN_COMMENT.
OPEN_STRING : PREFIX? '\'' SINGLE_QUOTED*;
OPEN_QUOTED_NAME
    : '"' { !doubleQuotedTexts() }? ( ~'"' | '""' )*
    | '"' { doubleQuotedTexts() }? ( ~["\\] | '""' | '\\' . )*
    | '`' ~'`'*
    ;
OPEN_COMMENT : '/*';

OTHER : . ;

// A JOIN that its dialect lets stand without a condition; the reader finds them.
BARE_JOIN : '\u0000 bare join';

fragment PREFIX : [BX] | 'N' { nationalTexts() }? | 'U&' { unicodeTexts() }?;
fragment SINGLE_QUOTED
    : ~['\\]
    | '\'\''
    | '\\' { !backslashEscapes() }?
    | '\\' . { backslashEscapes() }?
    ;
fragment REST_OF_LINE : ~[\r\n] | '\r' { !returnEndsLine() }?;
// Asked of Java, character by character: tables of all letters would be loaded at every start.
fragment LETTER : [A-Z_] | ~[\u0000-\u007F] { isLetter() }?;
fragment NAME_PART : [A-Z_0-9] | ~[\u0000-\u007F] { isPartOfName() }?;
fragment DIGIT : [0-9];
fragment DIGITS : [0-9] ( '_'? [0-9] )*;
fragment EXPONENT : 'E' [+-]? DIGIT+;
