/** The bus of the stand-in car as a DBC. Identifiers, names and scalings are invented. */
export const STAND_IN_DBC = `VERSION ""

NS_ :

BS_:

BU_: BodyComputer Radio Cluster

BO_ 288 KeyState: 4 BodyComputer
 SG_ Key : 0|3@1+ (1,0) [0|4] "" Radio
 SG_ RunCounter : 28|4@1+ (1,0) [0|15] "" Radio

BO_ 420 Selector: 4 BodyComputer
 SG_ Position : 0|4@1+ (1,0) [0|3] "" Radio
 SG_ FootBrake : 5|1@1+ (1,0) [0|1] "" Radio
 SG_ ParkingBrake : 6|1@1+ (1,0) [0|1] "" Radio

BO_ 528 Speed: 6 BodyComputer
 SG_ VehicleSpeed : 7|16@0+ (0.01,0) [0|300] "km/h" Radio
 SG_ Distance : 16|24@1+ (0.1,0) [0|1677721] "m" Cluster

BO_ 704 WheelKeys: 2 BodyComputer
 SG_ KeyCode : 0|8@1+ (1,0) [0|255] "" Radio
 SG_ Held : 8|8@1+ (0.1,0) [0|25.5] "s" Radio

BO_ 773 Steering: 4 BodyComputer
 SG_ WheelAngle : 7|16@0- (0.1,0) [-780|780] "deg" Radio

BO_ 945 Lights: 2 BodyComputer
 SG_ LowBeam : 0|1@1+ (1,0) [0|1] "" Radio
 SG_ Dimming : 8|8@1+ (0.5,0) [0|100] "%" Radio

BO_ 1040 Cabin: 4 Cluster
 SG_ Page M : 0|8@1+ (1,0) [0|1] "" Radio
 SG_ OutsideTemperature m0 : 8|8@1- (0.5,0) [-40|60] "degC" Radio
 SG_ ClockMinutes m1 : 8|16@1+ (1,0) [0|1439] "min" Radio

BO_ 2584805377 ModulePresence: 8 Radio
 SG_ PartLevel : 0|16@1+ (1,0) [0|65535] "" Cluster
 SG_ Supply : 39|32@0- (1,0) [0|0] "V" Cluster

CM_ BO_ 704 "Code of the wheel key that is pressed, 0 when none";
VAL_ 288 Key 0 "off" 1 "accessory" 2 "on" 3 "cranking" 4 "running" ;
VAL_ 420 Position 0 "P" 1 "R" 2 "N" 3 "D" ;
VAL_ 704 KeyCode 0 "none" 1 "volume up" 2 "volume down" 3 "next" 4 "back" ;
VAL_ 945 LowBeam 0 "off" 1 "on" ;
SIG_VALTYPE_ 2584805377 Supply : 1;
`;
